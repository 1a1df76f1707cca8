#include "scene/track_json.h"

#include "scene/project.h"

#include <algorithm>
#include <stdexcept>

namespace hygros::scene {
using nlohmann::json;

namespace {
constexpr const char* ways[] = {"smooth", "linear", "hold"};
constexpr const char* beyonds[] = {"hold", "goOn", "repeat", "swing"};
constexpr const char* stirKinds[] = {"sway", "swing", "pulse", "ramp", "follows"};

std::invalid_argument bad(const std::string& what) { return std::invalid_argument(what); }

template <class E, std::size_t N> E named(const json& j, const char* const (&names)[N], const std::string& what)
{
    std::string all;
    for (std::size_t i = 0; i < N; ++i) {
        if (j.is_string() && j.get_ref<const std::string&>() == names[i])
            return static_cast<E>(i);
        all += std::string(i ? ", " : "") + names[i];
    }
    throw bad(what + " must be one of " + all);
}
double number(const json& j, const std::string& what)
{
    if (!j.is_number())
        throw bad(what + " must be a number");
    return j.get<double>();
}
/// One number, or three of a point or colour.
json amounts(const Parameter& p, const Vec3& v)
{
    return p.type == ValueType::Colour || p.type == ValueType::Point ? jsonOf(v) : jsonOf(Vec3(v.x))[0];
}
Vec3 amounts(const json& j, const std::string& what)
{
    if (j.is_number())
        return Vec3(j.get<float>());
    if (!j.is_array() || j.size() != 3 || !std::all_of(j.begin(), j.end(), [](const json& n) { return n.is_number(); }))
        throw bad(what + " must be a number or three");
    return {j[0].get<float>(), j[1].get<float>(), j[2].get<float>()};
}

json keyToJson(const Parameter& p, const Key& k)
{
    json out = {{"frame", k.frame}, {"value", jsonOf(k.value)}};
    if (k.frame == std::floor(k.frame))
        out["frame"] = static_cast<std::int64_t>(k.frame);
    if (k.way != Way::Smooth)
        out["way"] = ways[static_cast<std::size_t>(k.way)];
    if (k.in)
        out["in"] = amounts(p, *k.in);
    if (k.out)
        out["out"] = amounts(p, *k.out);
    return out;
}
Key keyFromJson(const Parameter& p, const json& j)
{
    if (!j.is_object() || !j.contains("frame") || !j.contains("value"))
        throw bad(p.label + ": a key must be an object with frame and value");
    Key k;
    k.frame = number(j["frame"], p.label + ": a key's frame");
    k.value = p.checked(valueOf(p, j["value"]));
    if (j.contains("way"))
        k.way = named<Way>(j["way"], ways, p.label + ": a key's way");
    if (j.contains("in"))
        k.in = amounts(j["in"], p.label + ": a key's slope");
    if (j.contains("out"))
        k.out = amounts(j["out"], p.label + ": a key's slope");
    return k;
}

/// The numbers that a kind of stir has.
struct Field {
    const char* name;
    double Stir::*field;
};
std::vector<Field> fieldsOf(Stir::Kind kind)
{
    switch (kind) {
    case Stir::Kind::Sway: return {{"rate", &Stir::rate}, {"rough", &Stir::rough}};
    case Stir::Kind::Swing: return {{"rate", &Stir::rate}, {"phase", &Stir::phase}};
    case Stir::Kind::Pulse: return {{"rate", &Stir::rate}, {"phase", &Stir::phase}, {"width", &Stir::width}};
    case Stir::Kind::Ramp: return {{"from", &Stir::from}, {"to", &Stir::to}};
    case Stir::Kind::Follows: break;
    }
    return {};
}
json stirToJson(const Parameter& p, const Stir& s)
{
    json out = {{"kind", stirKinds[static_cast<std::size_t>(s.kind)]}, {"amount", amounts(p, s.amount)}};
    for (const Field& f : fieldsOf(s.kind))
        out[f.name] = s.*f.field;
    if (s.kind == Stir::Kind::Sway)
        out["seed"] = s.seed;
    if (s.kind == Stir::Kind::Follows)
        out["source"] = s.source;
    return out;
}
Stir stirFromJson(const Parameter& p, const json& j)
{
    if (!j.is_object() || !j.contains("kind") || !j.contains("amount"))
        throw bad(p.label + ": a stir must be an object with kind and amount");
    Stir s;
    s.kind = named<Stir::Kind>(j["kind"], stirKinds, p.label + ": a stir's kind");
    s.amount = amounts(j["amount"], p.label + ": a stir's amount");
    for (const Field& f : fieldsOf(s.kind))
        if (j.contains(f.name))
            s.*f.field = number(j[f.name], p.label + ": a stir's " + f.name);
    if (j.contains("seed")) {
        if (!j["seed"].is_number_integer())
            throw bad(p.label + ": a stir's seed must be a whole number");
        s.seed = j["seed"].get<std::int64_t>();
    }
    if (j.contains("source")) {
        if (!j["source"].is_string())
            throw bad(p.label + ": what a stir follows must be text");
        s.source = j["source"].get<std::string>();
    }
    return s;
}
} // namespace

json trackToJson(const Parameter& p, const Track& track)
{
    json out = json::object();
    if (!track.keys.empty()) {
        out["keys"] = json::array();
        for (const Key& k : track.keys)
            out["keys"].push_back(keyToJson(p, k));
    }
    if (track.before != Beyond::Hold)
        out["before"] = beyonds[static_cast<std::size_t>(track.before)];
    if (track.after != Beyond::Hold)
        out["after"] = beyonds[static_cast<std::size_t>(track.after)];
    if (!track.stirs.empty()) {
        out["stirs"] = json::array();
        for (const Stir& s : track.stirs)
            out["stirs"].push_back(stirToJson(p, s));
    }
    return out;
}

Track trackFromJson(const Parameter& p, const json& j)
{
    if (!j.is_object())
        throw bad("the motion of " + p.label + " must be an object");
    Track t;
    for (const char* list : {"keys", "stirs"})
        if (j.contains(list) && !j[list].is_array())
            throw bad("the " + std::string(list) + " of " + p.label + " must be a list");
    if (j.contains("keys")) {
        if (j["keys"].size() > Track::mostKeys)
            throw bad(p.label + " has " + std::to_string(j["keys"].size()) + " keys; " +
                      std::to_string(Track::mostKeys) + " is the most");
        for (const json& k : j["keys"])
            t.keys.push_back(keyFromJson(p, k));
        std::stable_sort(t.keys.begin(), t.keys.end(), [](const Key& a, const Key& b) { return a.frame < b.frame; });
    }
    if (j.contains("stirs"))
        for (const json& s : j["stirs"])
            t.stirs.push_back(stirFromJson(p, s));
    if (j.contains("before"))
        t.before = named<Beyond>(j["before"], beyonds, p.label + " before its keys");
    if (j.contains("after"))
        t.after = named<Beyond>(j["after"], beyonds, p.label + " after its keys");
    checkTrack(p, t);
    return t;
}

json timeToJson(const TimeSettings& t)
{
    return {
        {"first", t.first},     {"last", t.last}, {"shutterAngle", t.shutterAngle}, {"shutterPhase", t.shutterPhase},
        {"preRoll", t.preRoll}, {"loop", t.loop}};
}

void timeFromJson(TimeSettings& t, const json& j)
{
    if (!j.is_object())
        throw bad("time must be an object");
    for (const auto& [name, field] : {std::pair("first", &TimeSettings::first), std::pair("last", &TimeSettings::last)})
        if (j.contains(name)) {
            if (!j[name].is_number_integer() || std::abs(j[name].get<double>()) > TimeSettings::farthest)
                throw bad(std::string("the ") + name + " frame must be a whole number within ten million");
            t.*field = j[name].get<int>();
        }
    for (const auto& [name, field] :
         {std::pair("shutterAngle", &TimeSettings::shutterAngle),
          std::pair("shutterPhase", &TimeSettings::shutterPhase), std::pair("preRoll", &TimeSettings::preRoll),
          std::pair("loop", &TimeSettings::loop)})
        if (j.contains(name))
            t.*field = number(j[name], name);
    t.check();
}

json rateToJson(const Rate& rate)
{
    if (rate.isWhole() || rateOf(std::to_string(rate.perSecond())) == rate)
        return rate.perSecond();
    return std::to_string(rate.frames) + "/" + std::to_string(rate.seconds);
}

Rate rateFromJson(const json& j)
{
    std::optional<Rate> rate;
    if (j.is_number())
        rate = rateOf(std::to_string(j.get<double>()));
    else if (j.is_string())
        rate = rateOf(j.get<std::string>());
    if (!rate)
        throw bad("framesPerSecond must lie within 1 to 1000");
    return *rate;
}
} // namespace hygros::scene
