#include "cli/commands.h"

#include "base/error.h"
#include "image/image.h"
#include "scene/track_json.h"

#include <iostream>

namespace hygros::cli {
namespace fs = std::filesystem;

void tellNotes(const scene::Project& project, const shot::Shot& shot, bool strict)
{
    std::string trouble;
    for (const shot::Note& n : shot.notes) {
        const scene::Element* e = project.find(n.element);
        const std::string said = (e ? e->name : n.element) + ": " + n.text;
        if (strict && n.isTrouble)
            trouble += (trouble.empty() ? "" : " ") + said;
        else
            std::cerr << "note: " << said << "\n";
    }
    if (!trouble.empty())
        throw inputError("Checking", project.name, trouble, "Without --strict it is done all the same.");
}

namespace {
/// "    visibility: 1 = 800 m, 48 = 500 m (linear); sway 20 m 0.4 /s".
void tellTrack(const scene::Parameter& p, const scene::Track& track)
{
    static const char* const ways[] = {"", " (linear)", " (hold)"};
    static const char* const stirs[] = {"sway", "swing", "pulse", "ramp", "follows"};
    static const char* const beyonds[] = {"", "goes on", "repeats", "swings"};
    std::string out;
    constexpr std::size_t most = 12;
    for (std::size_t i = 0; i < std::min(most, track.keys.size()); ++i) {
        const scene::Key& k = track.keys[i];
        out += (i ? ", " : "") + formatNumber(k.frame, 7) + " = " + p.shown(k.value) +
               ways[static_cast<std::size_t>(k.way)];
    }
    if (track.keys.size() > most)
        out += " and " + std::to_string(track.keys.size() - most) + " more keys";
    for (const auto& [beyond, words] : {std::pair(track.before, "before "), std::pair(track.after, "after ")})
        if (beyond != scene::Beyond::Hold)
            out += std::string("; ") + words + beyonds[static_cast<std::size_t>(beyond)];
    for (const scene::Stir& s : track.stirs)
        out += std::string(out.empty() ? "" : "; ") + stirs[static_cast<std::size_t>(s.kind)] +
               (s.source.empty() ? "" : " " + s.source + " ×") + " " +
               p.shown(p.type == scene::ValueType::Number ? scene::Value(double(s.amount.x)) : scene::Value(s.amount));
    std::cout << "    " << p.id << " over time: " << out << "\n";
}
void infoProject(const fs::path& file, bool strict)
{
    const scene::Project p = scene::loadProject(file, elements::findKind);
    std::cout << p.name << "\nformat  hygros-project " << scene::projectVersion << "\nframe   " << p.frame << " at "
              << scene::shown(p.time.rate) << " frames a second\nframes  " << p.time.first << " to " << p.time.last;
    if (p.time.loop > 0.0)
        std::cout << ", loop of " << formatQuantity(p.time.loop, Quantity::Time);
    std::cout << "\n";
    for (const scene::Element& e : p.elements) {
        std::cout << "\n"
                  << e.id << "  (" << e.kind->label << ", " << scene::familyName(e.kind->family) << ")  " << e.name
                  << (e.muted ? "  muted" : "") << (e.soloed ? "  solo" : "") << "\n";
        for (const scene::Parameter& q : e.kind->parameters)
            if (scene::applies(e.kind->parameters, q, *e.settings))
                std::cout << "    " << q.id << " = " << q.shown(q.get(*e.settings)) << "\n";
        for (const auto& [id, track] : e.motion)
            tellTrack(*scene::findParameter(e.kind->parameters, id), *track);
    }
    for (const scene::Group& g : p.groups) {
        std::cout << "\ngroup   " << g.name << (g.muted ? "  muted" : "") << (g.soloed ? "  solo" : "") << ":";
        for (const scene::Element& e : p.elements)
            if (e.group == g.id)
                std::cout << " " << e.id;
        std::cout << "\n";
    }
    for (const auto& unknown : p.unknownElements)
        std::cout << "\nkept, but of a kind this version does not know: " << unknown.value("kind", "?") << "\n";
    JobControl job;
    Store store;
    const auto shot = elements::freeze(p, store, job, strict ? elements::Missing::Refused : elements::Missing::Told);
    tellNotes(p, *shot, strict);
    std::cout << "\nset     " << shot->scene->triangles() << " triangles\n";
}

/// A project's elements and what is to be said of them, as JSON.
void infoJson(const fs::path& file, bool strict)
{
    const scene::Project p = scene::loadProject(file, elements::findKind);
    nlohmann::ordered_json out;
    out["name"] = p.name;
    out["version"] = scene::projectVersion;
    out["frame"] = p.frame;
    out["framesPerSecond"] = nlohmann::ordered_json(scene::rateToJson(p.time.rate));
    out["time"] = nlohmann::ordered_json(scene::timeToJson(p.time));
    out["elements"] = nlohmann::ordered_json::array();
    for (const scene::Element& e : p.elements) {
        nlohmann::ordered_json one{
            {"id", e.id}, {"kind", e.kind->id}, {"name", e.name}, {"muted", e.muted}, {"soloed", e.soloed}};
        if (!e.group.empty())
            one["group"] = e.group;
        for (const auto& [id, track] : e.motion)
            one["motion"][id] = nlohmann::ordered_json(
                scene::trackToJson(*scene::findParameter(e.kind->parameters, id), *track));
        out["elements"].push_back(one);
    }
    JobControl job;
    Store store;
    const auto shot = elements::freeze(p, store, job, elements::Missing::Told);
    out["triangles"] = shot->scene->triangles();
    out["notes"] = nlohmann::ordered_json::array();
    for (const shot::Note& n : shot->notes) {
        nlohmann::ordered_json one{{"element", n.element}, {"text", n.text}, {"trouble", n.isTrouble}};
        if (!n.missing.empty())
            one["missing"] = n.missing;
        out["notes"].push_back(one);
    }
    std::cout << out.dump(2) << "\n";
    if (strict)
        tellNotes(p, *shot, true);
}
} // namespace

int infoCommand(const std::string& name, bool asJson, bool strict)
{
    const fs::path file(name);
    const std::string ending = file.extension().string();
    if (!fs::exists(file))
        throw inputError("Reading", name, "there is no such file");
    if (ending == ".hygros") {
        asJson ? infoJson(file, strict) : infoProject(file, strict);
    } else if (ending == ".glb" || ending == ".gltf" || ending == ".obj" || ending == ".ply" || ending == ".fbx") {
        JobControl job;
        const auto set = geometry::importSet(file, job);
        const Vec3 size = set->bounds.max - set->bounds.min;
        std::cout << set->triangles << " triangles in " << set->meshes.size() << " meshes, " << set->materials.size()
                  << " materials\nsize    " << formatNumber(size.x) << " × " << formatNumber(size.y) << " × "
                  << formatNumber(size.z) << " m\n";
        for (std::size_t i = 0; i < set->clips.size(); ++i)
            std::cout << "clip " << i + 1 << "  " << set->clips[i].name << ", "
                      << formatQuantity(set->clips[i].seconds, Quantity::Time) << "\n";
        if (!set->trouble.empty()) {
            if (strict)
                throw inputError("Reading", name, set->trouble);
            std::cerr << set->trouble << "\n";
        }
    } else if (ending == ".vdb") {
        for (const media::VdbGrid& g : media::vdbGrids(file)) {
            const Vec3 size = g.high - g.low;
            std::cout << (g.name.empty() ? "(no name)" : g.name) << "\n    type    " << g.type << ", " << g.kind
                      << "\n    voxel   " << formatNumber(g.voxel.x, 4) << " × " << formatNumber(g.voxel.y, 4) << " × "
                      << formatNumber(g.voxel.z, 4) << " m\n    active  " << g.active << " voxels\n    values  "
                      << formatNumber(g.least, 4) << " to " << formatNumber(g.most, 4) << "\n    size    "
                      << formatNumber(size.x) << " × " << formatNumber(size.y) << " × " << formatNumber(size.z)
                      << " m\n    memory  " << formatNumber(double(g.bytes) / 1e6) << " MB\n";
        }
    } else {
        const image::FileFacts facts = image::imageFacts(file);
        std::cout << facts.width << " × " << facts.height << ", " << facts.format << "\nchannels ";
        for (const std::string& c : facts.channels)
            std::cout << " " << c;
        std::cout << "\n";
        for (const auto& [key, value] : facts.metadata)
            std::cout << "    " << key << " = " << value << "\n";
    }
    return 0;
}
} // namespace hygros::cli
