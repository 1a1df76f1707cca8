#pragma once
/// How a lamp's strength changes over time; a pure function of time and seed, so that every frame comes out the same
/// again.
#include <cstdint>

namespace hygros::light {

enum class Change { Steady, Candle, Fire, FailingTube, Pulse, Strobe };

/// Factor of the strength at `seconds`, 1 − depth … 1. With a `loop` [s] it is the same after it; rates are brought to
/// whole turns.
/// Candle: mostly steady, with short dips. Fire: restless at several speeds. Failing tube: off and on, with runs of
/// quick stutter. Pulse: a sine. Strobe: on for a fifth of each turn. `rate` [1/s] is turns of pulse and strobe, and
/// the usual speed of the others.
float strengthAt(Change change, double seconds, double rate, double depth, std::uint32_t seed, double loop = 0.0);
} // namespace hygros::light
