#include "scene/evaluate.h"

#include <algorithm>
#include <stdexcept>
#include <utility>

namespace hygros::scene {
namespace {
struct Asked {
    const Element* element;
    const Parameter* parameter;
    bool operator==(const Asked&) const = default;
};
using Chain = std::vector<Asked>;

/// What a stir follows; nothing where it is not there.
std::optional<Asked> sourceOf(const Project& project, const Stir& stir)
{
    const auto dot = stir.source.find('.');
    const Element* e = project.find(stir.source.substr(0, dot));
    if (!e || dot == std::string::npos)
        return std::nullopt;
    const Parameter* p = findParameter(e->kind->parameters, stir.source.substr(dot + 1));
    return p ? std::optional<Asked>({e, p}) : std::nullopt;
}

Vec3 numbersOf(const Value& v)
{
    if (const auto* d = std::get_if<double>(&v))
        return Vec3(static_cast<float>(*d));
    if (const auto* i = std::get_if<std::int64_t>(&v))
        return Vec3(static_cast<float>(*i));
    if (const auto* b = std::get_if<bool>(&v))
        return Vec3(*b ? 1.f : 0.f);
    const auto* three = std::get_if<Vec3>(&v);
    return three ? *three : Vec3(0.f);
}

Value at(const Project& project, const Asked& what, double frame, Chain& chain)
{
    const Parameter& p = *what.parameter;
    const Value plain = p.get(*what.element->settings);
    const Track* track = what.element->track(p.id);
    if (!track)
        return plain;
    Value value = keyedValue(p, *track, frame, plain);
    if (track->stirs.empty())
        return track->keys.empty() ? value : limited(p, value);
    chain.push_back(what);
    for (const Stir& s : track->stirs) {
        Vec3 share;
        if (s.kind == Stir::Kind::Follows) {
            const auto source = sourceOf(project, s);
            if (!source || std::find(chain.begin(), chain.end(), *source) != chain.end())
                continue;
            share = numbersOf(at(project, *source, frame, chain));
        } else {
            for (int i = 0; i < 3; ++i)
                share[i] = static_cast<float>(stirAt(s, frame, project.time, i));
        }
        if (auto* d = std::get_if<double>(&value))
            *d += double(s.amount.x) * double(share.x);
        else if (auto* three = std::get_if<Vec3>(&value))
            *three += s.amount * share;
    }
    chain.pop_back();
    return limited(p, value);
}

void follow(const Project& project, const Asked& what, Chain& chain, std::vector<Asked>& done)
{
    if (std::find(done.begin(), done.end(), what) != done.end())
        return;
    if (std::find(chain.begin(), chain.end(), what) != chain.end())
        throw std::invalid_argument(what.element->id + "." + what.parameter->id +
                                    " follows itself, by way of what it follows");
    chain.push_back(what);
    if (const Track* track = what.element->track(what.parameter->id))
        for (const Stir& s : track->stirs)
            if (const auto source = sourceOf(project, s); s.kind == Stir::Kind::Follows && source)
                follow(project, *source, chain, done);
    chain.pop_back();
    done.push_back(what);
}
} // namespace

Value valueAt(const Project& project, const Element& element, const Parameter& parameter, double frame)
{
    Chain chain;
    return at(project, {&element, &parameter}, frame, chain);
}

Project evaluated(const Project& project, double frame)
{
    Project out = posed(project, frame);
    for (Element& e : out.elements) {
        e.motion.clear();
        e.unposed.reset();
    }
    return out;
}

Project posed(const Project& project, double frame)
{
    Project out = project;
    out.frame = frame;
    for (std::size_t i = 0; i < out.elements.size(); ++i) {
        const Element& keyed = project.elements[i];
        if (keyed.motion.empty())
            continue;
        Element& e = out.elements[i];
        auto settings = keyed.settings->clone();
        for (const auto& [id, track] : keyed.motion)
            if (const Parameter* p = findParameter(keyed.kind->parameters, id))
                p->assign(*settings, valueAt(project, keyed, *p, frame));
        e.settings = std::move(settings);
        e.unposed = keyed.settings;
    }
    return out;
}

Project withKeys(const Project& project, Project next, double frame, std::optional<double> recordedFrom)
{
    next.frame = project.frame;
    const auto minus = [](const Value& a, const Value& b, const Value& c) -> Value {
        if (const auto* d = std::get_if<double>(&a))
            return *d - (std::get<double>(b) - std::get<double>(c));
        if (const auto* three = std::get_if<Vec3>(&a))
            return *three - (std::get<Vec3>(b) - std::get<Vec3>(c));
        return a;
    };
    for (Element& e : next.elements) {
        const Element* was = project.find(e.id);
        if (const auto saved = std::exchange(e.unposed, nullptr); saved && !was) // a double of one that is keyed
            for (const auto& [id, track] : e.motion)
                e.set(id, findParameter(e.kind->parameters, id)->get(*saved));
        if (!was || was->kind != e.kind || (was->motion.empty() && !recordedFrom))
            continue;
        for (const Parameter& p : e.kind->parameters) {
            const Track* track = was->track(p.id);
            if (!track && (!recordedFrom || !mayBeKeyed(p)))
                continue;
            const Value before = valueAt(project, *was, p, frame), now = p.get(*e.settings),
                        own = p.get(*was->settings);
            // Motion that was itself changed is what somebody wanted.
            const bool sameMotion = e.motion.of(p.id) == was->motion.of(p.id);
            if (now == before || !sameMotion) {
                // Where its last key went, what it had here is what is left.
                const Track* left = e.track(p.id);
                if (now == before && track && (track->keys.empty() || (left && !left->keys.empty())))
                    e.set(p.id, own);
                continue;
            }
            Track changed = track ? *track : Track();
            if (!track || changed.keys.empty()) {
                if (!recordedFrom) { // stirred alone: its setting is what changes
                    e.set(p.id, limited(p, minus(now, before, own)));
                    continue;
                }
                if (*recordedFrom != frame)
                    changed.put(keyAt(*recordedFrom, own));
            }
            const Value plain = track ? keyedValue(p, *track, frame, own) : own;
            const Key* there = changed.at(frame);
            Key key = there ? *there : keyAt(frame, now);
            key.value = limited(p, minus(now, before, plain));
            if (!there) // it goes on as the stretch that it divides
                for (const Key& k : changed.keys)
                    if (k.frame < frame)
                        key.way = k.way;
            changed.put(key);
            e.set(p.id, own);
            e.setTrack(p.id, std::move(changed));
        }
    }
    return next;
}

void checkFollows(const Project& project)
{
    Chain chain;
    std::vector<Asked> done;
    for (const Element& e : project.elements)
        for (const auto& [id, track] : e.motion)
            if (const Parameter* p = findParameter(e.kind->parameters, id))
                follow(project, {&e, p}, chain, done);
}
} // namespace hygros::scene
