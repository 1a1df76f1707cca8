#pragma once
/// What the window's user has chosen for all projects: looks, units, how much of the machine is used. Kept in the
/// user's settings.
#include "base/shown_units.h"

#include <QString>

namespace hygros::app {

struct Choices {
    bool light = false;
    int scale = 100; ///< of the interface [%], from the next start
    ShownUnits::Length length = ShownUnits::Length::Metres;
    ShownUnits::Speed speed = ShownUnits::Speed::MetresPerSecond;
    enum Decimal { System, Point, Comma };
    int decimal = System;
    int samples = 64; ///< passes of a clean picture
    bool followsPaths = true;
    int threads = 0;         ///< 0: all there are
    double keptGb = 2.0;     ///< of what was read and worked out, in memory
    double bakedGb = 20.0;   ///< of baked frames of one project, on disk
    QString cacheFolder;     ///< of reference paths that are gone on from; empty: where the system keeps such
    double cacheGb = 2.0;    ///< of it
    QString language;        ///< code; empty: the system's, from the next start
    bool firstShown = false; ///< the first page was seen
    bool operator==(const Choices&) const = default;

    static Choices now();
    void keep() const;
    ShownUnits units() const;
    QString cache() const;
};
/// Units, threads: what holds at once for the whole program.
void apply(const Choices& choices);
} // namespace hygros::app
