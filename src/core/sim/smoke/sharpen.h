#pragma once
/// Detail for a baked gas that was not simulated: eddies smaller than its cells.
///
/// Heat and soot are looked up in cells half as wide, at places displaced by the curl of a noise, which makes nothing
/// and loses nothing (R. Bridson et al., Curl-noise for procedural fluid flow, SIGGRAPH 2007). How far goes by what the
/// cells themselves do: the speed of the smallest eddies that they hold passes on to smaller ones with the cube root of
/// the size (Kolmogorov), and an eddy moves things by no more than about its own size. The noise is carried along by
/// the gas, in two patterns that take turns before the flow has torn them (N. Max & B. Becker, Flow visualization using
/// moving textures, 1995), so that it neither stands still nor jumps from frame to frame.
#include "media/wind.h"
#include "sim/smoke/gas.h"

namespace hygros::sim {

/// Heat and soot of `gas` alone; `moving` tells the velocity, on the same lattice. `strength` 1 is as above; `time` of
/// the gas in seconds, from any beginning.
std::shared_ptr<const Gas> sharpened(const Gas& gas, const Gas& moving, float strength, double time, std::uint32_t seed,
                                     const std::vector<media::Wind>& winds);
} // namespace hygros::sim
