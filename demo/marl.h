#pragma once
/// The lock at Marl: a disused canal lock in flat country. The canal runs along −Z, water level is y = 0, the
/// towpath lies at 0.5 m on the left; lamp posts stand every 20 m from z = −10, poplars in two rows to z = −400.
#include "builder.h"

namespace hygros::demo {

inline constexpr float canalLeft = -2.5f, canalRight = 7.5f, bankHeight = 0.5f;
inline constexpr float chamberNear = -7.f, chamberFar = -34.f;

struct Marl {
    Builder ground, path, water, stone, brick, timber, plank, iron, glass, litGlass, bark, twig, grass, hull, cabin,
        roof, hills;
    Marl();
    std::vector<Builder> meshes() const;
};

void layGround(Marl& m);
void buildLock(Marl& m);
void buildHut(Marl& m);
void buildBoat(Marl& m);
/// A small boat in its own metres, for a file of its own.
void buildTender(Marl& m);
/// A beacon in open water, with the marks of its channel and the land about: a file of its own.
void buildBeacon(Marl& m);
/// A pool under a weir farther down the canal, its bed without water: a file of its own.
void buildWeir(Marl& m);
void buildBridge(Marl& m);
void raiseLampPosts(Marl& m);
void plantPoplars(Marl& m);
void sowGrass(Marl& m);
/// Height of the ground away from the canal.
float groundHeight(float x, float z);
} // namespace hygros::demo
