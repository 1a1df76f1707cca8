#pragma once
/// Baked gas at times that were not baked: between two frames along its motion, and one cross-faded into another.
#include "media/wind.h"
#include "sim/smoke/gas_file.h"

namespace hygros::sim {

/// Heat and soot a share of the way from one frame to the next, `seconds` of the gas apart: what each has is carried
/// toward that time by its own velocity and the wind, and both are blended. Of another lattice: the nearer one.
std::shared_ptr<const Gas> between(const std::shared_ptr<const Gas>& before, const std::shared_ptr<const Gas>& after,
                                   float share, float seconds, const std::vector<media::Wind>& winds);
/// A share of one and the rest of the other, where they are. Of another lattice: the nearer one.
std::shared_ptr<const Gas> mixed(const std::shared_ptr<const Gas>& one, const std::shared_ptr<const Gas>& other,
                                 float share);
/// What of a gas is seen, as from its written form.
SeenGas seenGas(const Gas& gas, float around, JobControl& job);
} // namespace hygros::sim
