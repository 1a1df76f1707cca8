#pragma once
/// What flows in where, and what is solid where, by the cells of a lattice.
#include "sim/smoke/gas.h"

namespace hygros::sim {

/// The cells that a feed fills, each with how much of it, as the feed stands at `toWorld` or has passed on the way from
/// `before`: what moves leaves no gaps.
Inflow inflowOf(const media::Feed& feed, const Mat4& before, const Lattice& lattice);

/// Cells that a surface passes through, by Lattice::at(); empty where none does. A surface has no thickness: all cells
/// that it touches are solid, so that nothing gets through the thinnest wall.
std::vector<std::uint8_t> solidsOf(const std::vector<geometry::PlacedSet>& obstacles, const Lattice& lattice,
                                   JobControl& job);
} // namespace hygros::sim
