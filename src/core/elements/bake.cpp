#include "elements/bake.h"

#include "base/digest.h"
#include "base/error.h"
#include "base/words.h"
#include "scene/evaluate.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct ContentKey {
    FileVersion file;
    bool operator==(const ContentKey&) const = default;
};
struct FramesKey {
    std::filesystem::path folder;
    bool operator==(const FramesKey&) const = default;
};

std::string textOf(const scene::Value& value) { return scene::jsonOf(value).dump(); }

const Kind& solvedKind(const scene::Project& project, const std::string& element)
{
    const scene::Element* e = project.find(element);
    if (!e)
        throw inputError("Baking", element, "there is no such element in the project");
    if (!kindOf(*e).solver)
        throw inputError("Baking", element, "a " + e->kind->label + " is not simulated");
    return kindOf(*e);
}

int firstStep(const scene::Project& project)
{
    const double frames = std::ceil(project.time.preRoll * project.time.rate.perSecond());
    return project.time.first - static_cast<int>(std::clamp(frames, 0.0, 1e6));
}
} // namespace

std::vector<std::string> simulated(const scene::Project& project)
{
    std::vector<std::string> ids;
    for (const scene::Element& e : project.elements)
        if (kindOf(e).solver && !project.silent(e))
            ids.push_back(e.id);
    return ids;
}

Provenance::Provenance(const scene::Project& project, const std::string& element, Store& store)
    : project_(project), store_(store), begin_(firstStep(project))
{
    const Kind& kind = solvedKind(project_, element);
    const scene::TimeSettings& time = project_.time;
    rules_["the frame rate"] = digestOfText(scene::shown(time.rate));
    rules_["the first frame"] = digestOfText(std::to_string(time.first));
    rules_["the pre-roll"] = digestOfText(std::to_string(time.preRoll));
    rules_["the loop"] = digestOfText(std::to_string(time.loop));
    if (kind.carriedBy)
        if (const auto carrier = kind.carriedBy(project_, *project_.find(element))) {
            carrier_ = std::make_shared<Provenance>(project_, *carrier, store_);
            carrierId_ = *carrier;
        }
    std::vector<std::string> ids{element};
    if (kind.comesFrom)
        for (const std::string& id : kind.comesFrom(project_))
            if (const scene::Element* e = project_.find(id); e && !project_.silent(*e))
                ids.push_back(id);
    for (const std::string& id : ids) {
        const scene::Element& e = *project_.find(id);
        rules_["the kind of " + id] = digestOfText(e.kind->id);
        for (const scene::Parameter& p : e.kind->parameters) {
            if (p.isLook || !scene::applies(e.kind->parameters, p, *e.settings))
                continue;
            Column column{&e, &p, id + "." + p.id, 0, {}};
            if (!e.track(p.id))
                column.steady = digest(column, begin_);
            columns_.push_back(std::move(column));
        }
    }
}

std::uint64_t Provenance::digest(const Column& column, double frame) const
{
    const scene::Value value = scene::valueAt(project_, *column.element, *column.parameter, frame);
    const auto* name = std::get_if<std::string>(&value);
    if (column.parameter->type != scene::ValueType::File || !name || name->empty())
        return digestOfText(textOf(value));
    const FileVersion file = versionOf(scene::resolved(project_, *name));
    return *store_.get(ContentKey{file},
                       [&] { return std::make_shared<const std::uint64_t>(digestOfFile(file.path)); });
}

Origins Provenance::at(int frame)
{
    Origins origins = rules_;
    const auto index = static_cast<std::size_t>(std::max(0, frame - begin_));
    for (Column& c : columns_) {
        if (c.element->track(c.parameter->id)) {
            while (c.so_far.size() <= index) {
                const auto now = static_cast<int>(c.so_far.size()) + begin_;
                const std::uint64_t before = c.so_far.empty() ? 0 : c.so_far.back();
                // Steps between frames see values between them.
                c.so_far.push_back(
                    digestOfText(std::to_string(digest(c, now)) + std::to_string(digest(c, now - 0.5)), before));
            }
            origins[c.name] = c.so_far[index];
        } else {
            origins[c.name] = c.steady;
        }
    }
    if (carrier_) {
        std::uint64_t all = 0;
        for (const auto& [name, digest] : carrier_->at(frame))
            all = digestOfText(name + std::to_string(digest), all);
        origins["the bake of " + carrierId_] = all;
    }
    return origins;
}

std::shared_ptr<const FrameStore> frameStoreOf(const scene::Project& project, Store& store)
{
    if (project.baked.empty())
        return nullptr;
    return store.get(FramesKey{project.baked}, [&] { return std::make_shared<const FrameStore>(project.baked); });
}

std::optional<BakedFrame> bakedFrame(const FreezeContext& c)
{
    const auto frames = frameStoreOf(c.whole, c.store);
    const int frame = c.whole.frameNumber();
    const std::string number = std::to_string(frame);
    if (!frames) {
        c.tell(words("Not baked.")); // the project has no place yet for what is baked
        return std::nullopt;
    }
    const auto answer = frames->look(c.element.id, frame, Provenance(c.whole, c.element.id, c.store).at(frame));
    using State = FrameStore::State;
    if (answer.state == State::Missing || answer.state == State::Damaged) {
        const scene::TimeSettings& time = c.whole.time;
        if (frame < time.first || frame > time.last)
            c.tell(words("Frame %1 is outside %2 to %3, which is what is baked.",
                         {number, std::to_string(time.first), std::to_string(time.last)}));
        else {
            shot::Note& n = c.finding(
                "notBaked", answer.why.empty() ? words("Frame %1 is not baked.", {number})
                                               : words("Frame %1: the baked file is damaged (%2); bake it again.",
                                                       {number, answer.why}));
            n.mends = words("Bake it"), n.bakes = true;
        }
        return std::nullopt;
    }
    if (answer.state == State::Stale) {
        shot::Note& n = c.finding("stale", words("The bake is stale: %1.", {answer.why}));
        n.mends = words("Bake it anew"), n.bakes = true;
    }
    return BakedFrame{frames, c.element.id, frame, versionOf(frames->fileOf(c.element.id, frame))};
}

std::optional<BakedFrame> keptFrame(const scene::Project& project, const std::string& element, int frame, Store& store)
{
    const auto frames = frameStoreOf(project, store);
    using State = FrameStore::State;
    if (const auto state = frames ? frames->look(element, frame, {}).state : State::Missing;
        state == State::Missing || state == State::Damaged)
        return std::nullopt;
    return BakedFrame{frames, element, frame, versionOf(frames->fileOf(element, frame))};
}

BakedSpan bakedSpan(const scene::Project& project, const std::string& element, const FrameStore& frames, Store& store)
{
    Provenance provenance(project, element, store);
    BakedSpan span;
    span.first = project.time.first;
    for (int frame = project.time.first; frame <= project.time.last; ++frame) {
        const auto answer = frames.look(element, frame, provenance.at(frame));
        span.states.push_back(answer.state);
        if (answer.origins)
            for (const auto& [name, digest] : *answer.origins)
                if (const auto change = sim::frameOfChange(name); change == frame)
                    span.changes.push_back(frame);
        span.bytes += answer.bytes;
        if (span.why.empty())
            span.why = answer.why;
    }
    return span;
}

sim::BakeResult bake(const scene::Project& project, const std::string& element, FrameStore& frames, Store& store,
                     JobControl& job, const BakeWishes& wishes)
{
    const Kind& kind = solvedKind(project, element);
    if (project.silent(*project.find(element)))
        throw inputError("Baking", element, "it is muted, or another of its family is soloed");
    // What carries it comes first; it is there at once where it is baked already.
    if (kind.carriedBy)
        if (const auto carrier = kind.carriedBy(project, *project.find(element));
            carrier && !project.silent(*project.find(*carrier)))
            bake(project, *carrier, frames, store, job, {wishes.last});
    const auto solver = kind.solver(element);
    scene::Project now = project;
    now.baked.clear(); // nothing that is baked is looked at
    auto provenance = std::make_unique<Provenance>(now, element, store);
    sim::BakeOrder order;
    order.element = element;
    order.first = project.time.first;
    order.last = std::clamp(wishes.last.value_or(project.time.last), order.first, project.time.last);
    order.preRoll = order.first - firstStep(project);
    order.frameSeconds = 1.0 / project.time.rate.perSecond();
    order.shotAt = [&](double frame) {
        now.frame = frame;
        auto shot = freeze(now, store, job, Missing::Told);
        if (!kind.ride)
            return shot;
        scene::Project whole = now;
        whole.baked = frames.folder();
        auto ridden = std::make_shared<shot::Shot>(*shot);
        kind.ride(whole, *whole.find(element), frame, store, *ridden);
        return std::shared_ptr<const shot::Shot>(std::move(ridden));
    };
    order.originsAt = [&](int frame) { return provenance->at(frame); };
    order.kept = wishes.kept;
    if (wishes.renewed)
        order.changes = [&](int frame) {
            const auto next = wishes.renewed();
            if (!next || !next->find(element) || next->silent(*next->find(element)))
                return false;
            scene::Project other = *next;
            other.baked.clear();
            auto from = std::make_unique<Provenance>(other, element, store);
            const bool changed = from->at(frame) != provenance->at(frame);
            now = std::move(other);
            provenance = std::move(from);
            return changed;
        };
    std::map<std::string, std::unique_ptr<Provenance>> others;
    order.mayGo = [&](const std::string& id, int frame) {
        const scene::Element* e = project.find(id);
        if (!e || !kindOf(*e).solver)
            return true;
        auto& from = others[id];
        if (!from)
            from = std::make_unique<Provenance>(project, id, store);
        return frames.look(id, frame, from->at(frame)).state != FrameStore::State::Fresh;
    };
    return sim::bake(*solver, order, frames, job);
}
} // namespace hygros::elements
