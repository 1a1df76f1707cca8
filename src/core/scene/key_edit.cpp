#include "scene/key_edit.h"

#include "base/json_depth.h"
#include "scene/track_json.h"

#include <cmath>
#include <stdexcept>

namespace hygros::scene {
namespace {
constexpr auto mark = "hygros-keys";

/// The chosen frames by track.
std::map<std::pair<std::string, std::string>, std::vector<double>> byTrack(const KeyPlaces& chosen)
{
    std::map<std::pair<std::string, std::string>, std::vector<double>> all;
    for (const KeyPlace& k : chosen)
        all[{k.element, k.parameter}].push_back(k.frame);
    return all;
}
} // namespace

std::function<double(double)> stretched(double pivot, double times, bool whole)
{
    return [=](double frame) {
        const double to = pivot + (frame - pivot) * times;
        return whole ? std::round(to) : to;
    };
}

std::function<double(double)> shifted(double by, bool whole)
{
    return [=](double frame) { return whole ? std::round(frame + by) : frame + by; };
}

KeyPlaces changeKeys(Project& project, const KeyPlaces& chosen, const std::function<double(double)>& to,
                     const std::function<Value(const Parameter&, const Value&)>& value)
{
    Project next = project;
    KeyPlaces now;
    for (const auto& [place, frames] : byTrack(chosen)) {
        Element* e = next.find(place.first);
        const Track* was = e ? e->track(place.second) : nullptr;
        if (!was)
            continue;
        const Parameter& p = *findParameter(e->kind->parameters, place.second);
        Track track = *was;
        std::vector<Key> moving;
        for (const double f : frames)
            if (const Key* k = was->at(f)) {
                moving.push_back(*k);
                track.removeAt(f);
            }
        for (Key& k : moving) {
            // How much longer time is here.
            const double longer = to(k.frame + 0.5) - to(k.frame - 0.5);
            for (std::optional<Vec3>* slope : {&k.in, &k.out})
                if (*slope && longer > 1e-6)
                    **slope /= static_cast<float>(longer);
            k.frame = to(k.frame);
            if (value)
                k.value = p.checked(value(p, k.value));
            now.insert({place.first, place.second, k.frame});
            track.put(k);
        }
        e->setTrack(place.second, std::move(track));
    }
    project = std::move(next);
    return now;
}

void removeKeys(Project& project, const KeyPlaces& chosen)
{
    for (const auto& [place, frames] : byTrack(chosen)) {
        Element* e = project.find(place.first);
        const Track* was = e ? e->track(place.second) : nullptr;
        if (!was)
            continue;
        Track track = *was;
        Value last;
        for (const double f : frames)
            if (const Key* k = track.at(f)) {
                last = k->value;
                track.removeAt(f);
            }
        const bool none = track.keys.empty() && !was->keys.empty();
        e->setTrack(place.second, std::move(track));
        if (none) // the last one leaves its value behind
            e->set(place.second, last);
    }
}

std::string keysToText(const Project& project, const KeyPlaces& chosen)
{
    double first = 1e300;
    for (const KeyPlace& k : chosen)
        first = std::min(first, k.frame);
    nlohmann::json all{{mark, nlohmann::json::object()}};
    for (const auto& [place, frames] : byTrack(chosen)) {
        const Element* e = project.find(place.first);
        const Track* was = e ? e->track(place.second) : nullptr;
        if (!was)
            continue;
        Track part;
        for (const double f : frames)
            if (const Key* k = was->at(f)) {
                Key copy = *k;
                copy.frame -= first;
                part.put(copy);
            }
        all[mark][place.second] = trackToJson(*findParameter(e->kind->parameters, place.second), part);
    }
    return all.dump(1);
}

KeyPlaces pasteKeys(Project& project, const std::string& element, double frame, const std::string& text)
{
    checkJsonDepth(text, "Pasting keys", "");
    const auto all = nlohmann::json::parse(text, nullptr, false);
    if (!all.is_object() || !all.contains(mark) || !all[mark].is_object())
        throw std::invalid_argument("the clipboard holds no keys");
    Element* e = project.find(element);
    if (!e)
        throw std::invalid_argument("there is no element '" + element + "'");
    KeyPlaces now;
    for (const auto& [id, json] : all[mark].items()) {
        const Parameter* p = findParameter(e->kind->parameters, id);
        if (!p || !mayBeKeyed(*p))
            continue;
        Track part;
        try {
            part = trackFromJson(*p, json);
            checkTrack(*p, part);
        } catch (const std::invalid_argument&) {
            continue; // another type or range under the same name
        }
        const Track* was = e->track(id);
        Track track = was ? *was : Track();
        for (Key k : part.keys) {
            k.frame += frame;
            now.insert({element, id, k.frame});
            track.put(std::move(k));
        }
        e->setTrack(id, std::move(track));
    }
    return now;
}
} // namespace hygros::scene
