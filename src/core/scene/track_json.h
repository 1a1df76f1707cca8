#pragma once
/// Keys and stirs, and the project's time, as JSON.
#include "scene/track.h"

#include <nlohmann/json.hpp>

namespace hygros::scene {

/// What is at its default is left out.
nlohmann::json trackToJson(const Parameter& parameter, const Track& track);
/// Keys may stand in any order. Throws std::invalid_argument with a sentence for people.
Track trackFromJson(const Parameter& parameter, const nlohmann::json& json);

nlohmann::json timeToJson(const TimeSettings& time);
/// All but the rate. Throws as above.
void timeFromJson(TimeSettings& time, const nlohmann::json& json);
/// A number where that says it, else "24000/1001"; and back.
nlohmann::json rateToJson(const Rate& rate);
Rate rateFromJson(const nlohmann::json& json);
} // namespace hygros::scene
