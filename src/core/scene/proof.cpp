#include "scene/proof.h"

namespace hygros::scene {
using nlohmann::json;

namespace {
constexpr std::size_t most = 500; ///< proofs of a file; more than a hand can look through

std::string textOf(const json& j, const char* key)
{
    return j.contains(key) && j[key].is_string() ? j[key].get<std::string>() : std::string();
}
Proof proofFrom(const json& j, const Project& project, const KindLookup& kinds)
{
    Proof p;
    try {
        if (!j.is_object() || !j.contains("state") || !j["state"].is_object())
            throw std::invalid_argument("it has no state");
        p.note = textOf(j, "note");
        p.time = textOf(j, "time");
        p.picture = textOf(j, "picture");
        p.samples = j.contains("samples") && j["samples"].is_number_integer() ? j["samples"].get<int>() : 0;
        p.state = fromJson(j["state"].dump(), "a proof", kinds);
        p.state.unknown.erase("proofs");
        p.state.folder = project.folder;
        p.state.baked = project.baked;
    } catch (const std::exception&) {
        p = {};
        p.unreadable = j;
    }
    return p;
}
} // namespace

std::vector<Proof> takeProofs(Project& project, const KindLookup& kinds)
{
    std::vector<Proof> out;
    if (!project.unknown.is_object() || !project.unknown.contains("proofs"))
        return out;
    const json all = project.unknown["proofs"];
    project.unknown.erase("proofs");
    if (!all.is_array()) {
        out.push_back({});
        out.back().unreadable = all;
        return out;
    }
    for (const json& j : all) {
        if (out.size() < most) {
            out.push_back(proofFrom(j, project, kinds));
            continue;
        }
        out.push_back({});
        out.back().unreadable = j;
    }
    return out;
}

void putProofs(Project& project, const std::vector<std::shared_ptr<const Proof>>& proofs,
               const std::filesystem::path& folder)
{
    if (proofs.empty())
        return;
    if (!project.unknown.is_object())
        project.unknown = json::object();
    json all = json::array();
    for (const auto& one : proofs) {
        const Proof& p = *one;
        if (!p.isReadable()) {
            all.push_back(p.unreadable);
            continue;
        }
        Project state = namedFrom(p.state, folder);
        if (state.unknown.is_object())
            state.unknown.erase("proofs");
        all.push_back({{"note", p.note},
                       {"time", p.time},
                       {"samples", p.samples},
                       {"picture", p.picture},
                       {"state", json::parse(toJson(state))}});
    }
    project.unknown["proofs"] = std::move(all);
}
} // namespace hygros::scene
