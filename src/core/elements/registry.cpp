#include "elements/kinds.h"

#include "base/error.h"
#include "base/words.h"
#include "elements/cover_file.h"
#include "elements/drift_kind.h"
#include "elements/snow_cover.h"
#include "elements/wet_ground.h"
#include "geometry/plate.h"
#include "scene/evaluate.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace hygros::elements {

// Every kind there is, in the order in which they are offered. To add one: its file, and its name here.
#define HYGROS_KINDS(kind)                                                                                             \
    kind(allAir) kind(haze) kind(fogBank) kind(cloudDeck) kind(volume) kind(tint) kind(combination) kind(copies)       \
        kind(veil) kind(sun) kind(spot) kind(bulb) kind(panel) kind(tube) kind(beam) kind(set) kind(objectCopies)      \
            kind(plate) kind(plume) kind(feed) kind(embers) kind(probe) kind(rain) kind(snow) kind(snowCover)          \
                kind(drift) kind(hail) kind(particles) kind(lightning) kind(wetGround) kind(wind) kind(force)          \
                    kind(tracers) kind(openWater) kind(pool) kind(buoy) kind(shot) kind(look)

#define HYGROS_DECLARE(name) Kind name##Kind();
HYGROS_KINDS(HYGROS_DECLARE)

const std::vector<Kind>& kinds()
{
#define HYGROS_CALL(name) name##Kind(),
    static const std::vector<Kind> all = [] {
        std::vector<Kind> made{HYGROS_KINDS(HYGROS_CALL)};
        for (Kind& k : made) {
            k.label = words(k.label);
            k.help = words(k.help);
            for (scene::Parameter& p : k.parameters) {
                p.label = words(p.label);
                p.group = words(p.group);
                p.help = words(p.help);
            }
        }
        return made;
    }();
    return all;
}

const Kind* findKind(const std::string& id)
{
    for (const Kind& k : kinds())
        if (k.id == id)
            return &k;
    return nullptr;
}

namespace {
/// The set without what a light does not reach at all; null where it reaches everything.
std::shared_ptr<const geometry::RayScene> reachedAlone(const std::vector<geometry::PlacedSet>& placed,
                                                       const std::vector<float>& reach, Store& store, JobControl& job)
{
    std::vector<geometry::PlacedSet> left = placed;
    bool some = false;
    for (geometry::PlacedSet& p : left)
        for (std::uint16_t group = 0; group < std::max<std::size_t>(1, p.set->groups.size()); ++group)
            if (const std::size_t at = p.order + group; at < reach.size() && reach[at] <= 0.f) {
                p.without.push_back(group);
                some = true;
            }
    return some ? keptScene(store, left, job) : nullptr;
}

/// Strengths as the renderer wants them: by index; empty when all are 1.
void resolveReach(const scene::Project& project, shot::Shot& shot, const std::vector<geometry::PlacedSet>& placed,
                  Store& store, JobControl& job)
{
    const auto shadowsToo = [](const scene::Element& e) { return std::get<bool>(e.value("reachShadows")); };
    const auto listed = [](const scene::Element& light, const std::string& row, const auto& items, const auto& idOf) {
        std::vector<float> out;
        bool other = false;
        for (const auto& item : items) {
            const std::string id = idOf(item);
            double strength = light.reachTo(row + id);
            if (const auto slash = id.find('/'); slash != std::string::npos) // an object's, times its set's
                strength *= light.reachTo(row + id.substr(0, slash));
            out.push_back(static_cast<float>(strength));
            other = other || out.back() != 1.f;
        }
        return other ? out : std::vector<float>();
    };
    const auto own = [](const auto& m) { return m.id; };
    const auto self = [](const std::string& id) { return id; };
    const std::vector<std::string> bodies = shot.bodyIds();
    for (light::Lamp& lamp : shot.lamps)
        if (const scene::Element* e = project.find(lamp.id); e && !e->reach.empty()) {
            lamp.mediaReach = listed(*e, "", shot.media, own);
            lamp.bodyReach = listed(*e, "", bodies, self);
            lamp.setReach = listed(*e, "", shot.setIds, self);
            if (shadowsToo(*e))
                lamp.shadowScene = reachedAlone(placed, lamp.setReach, store, job);
        }
    if (const scene::Element* e = project.find(shot.sunId); e && !e->reach.empty()) {
        shot.sunReach = {listed(*e, "", shot.media, own), listed(*e, "", bodies, self),
                         listed(*e, "", shot.setIds, self)};
        if (shadowsToo(*e))
            shot.sunShadows = reachedAlone(placed, shot.sunReach.sets, store, job);
        shot.skyReach = {listed(*e, "sky/", shot.media, own), listed(*e, "sky/", bodies, self),
                         listed(*e, "sky/", shot.setIds, self)};
        std::size_t number = 0;
        shot::Bodies::each(shot, [&](auto& body) {
            body.bySun = shot.sunReach.bodies.empty() ? 1.f : shot.sunReach.bodies[number];
            body.bySky = shot.skyReach.bodies.empty() ? 1.f : shot.skyReach.bodies[number];
            ++number;
        });
    }
}
/// Gives sets from a first one on their numbers and names.
void number(std::vector<geometry::PlacedSet>& placed, std::size_t first, shot::Shot& shot)
{
    for (std::size_t i = first; i < placed.size(); ++i) {
        geometry::PlacedSet& p = placed[i];
        // Copies count as one.
        if (i > 0 && p.element == placed[i - 1].element && p.set == placed[i - 1].set) {
            p.order = placed[i - 1].order;
            continue;
        }
        p.order = static_cast<std::uint16_t>(shot.setIds.size());
        // Numbers are the file's: objects that are left out have one, and no name.
        const std::size_t objects = std::max<std::size_t>(1, p.set->groups.size());
        const bool single = objects - p.without.size() == 1;
        for (std::size_t object = 0; object < objects; ++object)
            shot.setIds.push_back(std::find(p.without.begin(), p.without.end(), object) != p.without.end()
                                      ? std::string()
                                  : single ? p.element
                                           : p.element + "/" + p.set->groups[object]);
    }
}
} // namespace

std::vector<MissingFile> missingFiles(const scene::Project& project)
{
    std::vector<MissingFile> all;
    for (const scene::Element& e : project.elements)
        for (const scene::Parameter& p : e.kind->parameters)
            if (p.type == scene::ValueType::File && scene::applies(e.kind->parameters, p, *e.settings)) {
                const scene::Value name = e.value(p.id);
                const std::filesystem::path file = scene::resolved(project, std::get<std::string>(name));
                std::error_code none;
                // Of a numbered sequence any frame will do.
                if (!std::get<std::string>(name).empty() && !std::filesystem::exists(file, none) &&
                    !geometry::frameRange(file))
                    all.push_back({e.id, p.id, file});
            }
    return all;
}

int findFiles(scene::Project& project, const std::string& element, const std::string& parameter,
              const std::filesystem::path& file)
{
    const auto missing = missingFiles(project);
    std::filesystem::path folder;
    for (const MissingFile& m : missing)
        if (m.element == element && m.parameter == parameter)
            folder = m.file.parent_path();
    const auto name = [&](const std::filesystem::path& f) {
        const auto full = std::filesystem::absolute(f).lexically_normal();
        const auto shorter = project.folder.empty()
                                 ? full
                                 : full.lexically_relative(std::filesystem::absolute(project.folder));
        return (shorter.empty() ? full : shorter).generic_string();
    };
    scene::Element* own = project.find(element);
    if (!own)
        throw std::invalid_argument("there is no element '" + element + "' any more");
    own->set(parameter, name(file));
    int found = 1;
    for (const MissingFile& m : missing) {
        const auto there = file.parent_path() / m.file.filename();
        if ((m.element == element && m.parameter == parameter) || m.file.parent_path() != folder ||
            !std::filesystem::exists(there))
            continue;
        project.find(m.element)->set(m.parameter, name(there));
        ++found;
    }
    return found;
}

namespace {
/// A project's frame while it is put together.
struct Freezing {
    const scene::Project& whole;
    scene::Project project; ///< with its values at the frame
    shot::Shot& shot;
    Store& store;
    JobControl& job;
    std::vector<geometry::PlacedSet> placed = {};

    void each(const std::function<bool(const Kind&)>& wanted, std::function<void(FreezeContext&)> Kind::*step)
    {
        for (const scene::Element& e : project.elements) {
            const Kind& kind = kindOf(e);
            if (!wanted(kind) || !(kind.*step) || (project.silent(e) && !kind.staysWhenSilent))
                continue;
            FreezeContext context{
                project, e, project.time.looped(project.time.seconds(project.frame)), shot, placed, store, job, whole};
            (kind.*step)(context);
        }
    }
    void at(Kind::Stage stage)
    {
        each([stage](const Kind& k) { return k.stage == stage; }, &Kind::contribute);
    }
    /// Camera and set first: air may lie on the ground or fill an object.
    void stand(const std::optional<geometry::Camera>& from)
    {
        at(Kind::Stage::Camera);
        if (from)
            shot.camera = *from;
        at(Kind::Stage::Set);
        number(placed, 0, shot);
        at(Kind::Stage::Falls);
        const geometry::Snowed snowed = snowedOn(project);
        const geometry::Strewn strewn = strewnOn(project);
        const Waters waters(project, placed, shot,
                            project.time.looped(project.time.seconds(project.frame)) -
                                (whole.time.first - 1) / whole.time.rate.perSecond(),
                            store, job);
        for (geometry::PlacedSet& p : placed) {
            p.wetness = waters.on(p.element);
            if (!p.matte) {
                p.snowed = snowed;
                p.strewn = strewn;
            }
        }
        const std::size_t bare = placed.size();
        at(Kind::Stage::Ground);
        number(placed, bare, shot);
        for (geometry::PlacedWater& w : shot.waters) {
            w.order = static_cast<std::uint16_t>(shot.setIds.size());
            shot.setIds.push_back(w.element);
        }
    }
};
} // namespace

std::vector<geometry::PlacedSet> standing(const scene::Project& project, Store& store, JobControl& job)
{
    shot::Shot shot;
    Freezing now{project, scene::evaluated(project, project.frame), shot, store, job};
    now.stand({});
    return std::move(now.placed);
}

std::shared_ptr<const shot::Shot> freeze(const scene::Project& whole, Store& store, JobControl& job, Missing howMissing,
                                         const std::optional<geometry::Camera>& from)
{
    auto result = std::make_shared<shot::Shot>();
    Freezing now{whole, scene::evaluated(whole, whole.frame), *result, store, job};
    // Without its file an element is as if none were chosen.
    if (howMissing == Missing::Told)
        for (const MissingFile& m : missingFiles(whole)) {
            now.project.find(m.element)->set(m.parameter, std::string());
            result->notes.push_back({m.element, words("Its file is not there: %1", {m.file.string()}), m.parameter});
        }
    result->frame = now.project.frameNumber();
    now.stand(from);
    result->scene = keptScene(store, now.placed, job, result->waters);
    now.at(Kind::Stage::Rest);
    // Under water nothing falls or glows before the eye.
    if (result->scene->waterAround(result->camera.position)) {
        result->falling.clear();
        result->sparks.clear();
        result->hotAir.clear();
    }
    now.each([](const Kind&) { return true; }, &Kind::complete);
    resolveReach(now.project, *result, now.placed, store, job);
    // Where a file is missing nothing else is worth saying of the element.
    std::set<std::string> without;
    for (const shot::Note& n : result->notes)
        if (!n.missing.empty())
            without.insert(n.element);
    std::erase_if(result->notes,
                  [&](const shot::Note& n) { return n.missing.empty() && without.count(n.element) > 0; });
    return result;
}

std::vector<std::shared_ptr<const shot::Shot>> freezeOpen(const scene::Project& project, Store& store, JobControl& job,
                                                          int pieces, Missing missing)
{
    std::vector<std::shared_ptr<const shot::Shot>> shots{freeze(project, store, job, missing)};
    const scene::TimeSettings& time = project.time;
    if (pieces < 2 || time.shutterAngle <= 0.0)
        return shots;
    const auto at = [&](double share) {
        scene::Project moment = project;
        moment.frame = project.frame + (time.shutterPhase + share * time.shutterAngle) / 360.0;
        auto shot = std::make_shared<shot::Shot>(*freeze(moment, store, job, missing));
        // All of it is this frame's picture; what is not seen makes no difference.
        shot->frame = shots.front()->frame;
        shot->airflow = shots.front()->airflow;
        shot->notes = shots.front()->notes;
        return std::shared_ptr<const shot::Shot>(std::move(shot));
    };
    std::vector<std::shared_ptr<const shot::Shot>> open;
    bool moves = false;
    for (int i = 0; i < pieces; ++i) {
        open.push_back(at((i + 0.5) / pieces));
        moves = moves || !(*open.back() == *open.front());
        if (i == 0 && *open.back() == *shots.front() && *at(1.0) == *shots.front() && *at(0.37) == *shots.front())
            return shots;
    }
    return moves ? open : shots;
}

std::optional<geometry::PlacedSet> placedSet(const scene::Project& project, const scene::Element& element, Store& store,
                                             JobControl& job)
{
    const Kind& kind = kindOf(element);
    return kind.placed ? kind.placed(project, element, store, job) : std::nullopt;
}

Mat4 frameOf(const scene::Project& project, const scene::Element& element, Store& store, JobControl& job)
{
    for (const scene::Parameter& p : element.kind->parameters)
        if (p.isCarrier)
            return frameOf(project, std::get<std::string>(element.value(p.id)), store, job).value_or(Mat4());
    return {};
}

namespace {
/// Has a camera that goes with something else now lean as it did, at the project's frame.
void lean(const scene::Project& project, scene::Element& camera, const Mat4& before, Store& store)
{
    JobControl job;
    const Mat4 now = frameOf(project, camera, store, job);
    geometry::Camera own;
    own.position = std::get<Vec3>(camera.value("position"));
    own.aim = std::get<Vec3>(camera.value("aim"));
    // As it leant in the world, from how it leant in what it went with until now.
    geometry::Camera was = geometry::carriedBy(own, now * before.inverse());
    was.roll = radians(std::get<double>(camera.value("roll")));
    const float leant = geometry::carriedBy(was, before * now.inverse()).roll - was.roll;
    camera.change(*scene::findParameter(camera.kind->parameters, "roll"), [&](const scene::Value& v) -> scene::Value {
        return std::round(1e4 * (std::get<double>(v) + double(leant) * 180.0 / double(pi))) / 1e4;
    });
}
} // namespace

void setValue(scene::Project& project, const std::string& id, const std::string& parameter, const scene::Value& value,
              Store& store)
{
    scene::Element* e = project.find(id);
    if (!e)
        throw std::invalid_argument("there is no element '" + id + "' any more");
    const scene::Parameter* p = scene::findParameter(e->kind->parameters, parameter);
    if (p && p->isCarrier) {
        // It stays where it stands: its places are put into the metres of what it goes with.
        JobControl job;
        const Mat4 before = frameOf(project, *e, store, job);
        e->set(parameter, value);
        const Mat4 into = frameOf(project, *e, store, job).inverse();
        for (const scene::Parameter& q : e->kind->parameters)
            if (q.isPlace) {
                e->change(q, [&](const scene::Value& v) -> scene::Value {
                    Vec3 world, local;
                    before.multVecMatrix(std::get<Vec3>(v), world);
                    into.multVecMatrix(world, local);
                    return local;
                });
            } else if (q.isHeading) {
                const double turned = static_cast<double>(turnOf(before) + turnOf(into)) * 180.0 /
                                      static_cast<double>(pi);
                e->change(q, [&](const scene::Value& v) -> scene::Value { return std::get<double>(v) + turned; });
            }
        if (kindOf(*e).isCamera)
            lean(project, *e, before, store);
        return;
    }
    const Kind& kind = kindOf(*e);
    const auto all = kind.along ? kind.along(*e, parameter, value)
                                : std::vector<std::pair<std::string, scene::Value>>();
    if (all.empty())
        e->set(parameter, value);
    for (const auto& [other, v] : all)
        e->set(other, v);
}

scene::Element* cameraOf(scene::Project& project)
{
    for (scene::Element& e : project.elements)
        if (kindOf(e).isCamera)
            return &e;
    return nullptr;
}

void holdOut(scene::Project& project, const std::string& id)
{
    bool found = false;
    for (scene::Element& e : project.elements)
        if (kindOf(e).placed && (id == "all" || e.id == id)) {
            e.set("matte", true);
            found = true;
        }
    if (!found && id != "all")
        throw inputError("Holding out", id, "there is no such set in the project");
}

scene::Project newProject()
{
    scene::Project p;
    for (const char* id : {"shot", "look", "sun"}) {
        const scene::ElementKind* kind = findKind(id);
        p.add(*kind, kind->label).id = id;
    }
    return p;
}
} // namespace hygros::elements
