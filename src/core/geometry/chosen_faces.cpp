#include "geometry/chosen_faces.h"

#include "base/digest.h"

#include <algorithm>
#include <charconv>

namespace hygros::geometry {
namespace {
/// Names of all meshes, no two alike.
std::vector<std::string> namesOf(const SetGeometry& set)
{
    std::map<std::string, int> seen;
    std::vector<std::string> out;
    for (const Mesh& m : set.meshes) {
        std::string name = m.name;
        std::replace(name.begin(), name.end(), '\n', ' ');
        const int turn = ++seen[name];
        out.push_back(turn == 1 ? name : name + "#" + std::to_string(turn));
    }
    return out;
}
std::uint64_t digestOfMesh(const Mesh& m)
{
    return digestOf({reinterpret_cast<const char*>(m.indices.data()), m.indices.size() * sizeof m.indices[0]});
}
/// Takes a number from the front of `text`; false where there is none.
template <class T> bool take(std::string_view& text, T& to, int base = 10)
{
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), to, base);
    if (error != std::errc() || end == text.data())
        return false;
    text.remove_prefix(static_cast<std::size_t>(end - text.data()));
    return true;
}
bool take(std::string_view& text, char c)
{
    if (text.empty() || text.front() != c)
        return false;
    text.remove_prefix(1);
    return true;
}
} // namespace

ChosenFaces::ChosenFaces(const SetGeometry& set, const std::map<std::size_t, std::vector<bool>>& on)
{
    const auto names = namesOf(set);
    for (const auto& [mesh, faces] : on) {
        if (mesh >= set.meshes.size())
            continue;
        Part part{names[mesh], digestOfMesh(set.meshes[mesh]), set.meshes[mesh].indices.size() / 3, {}};
        for (std::uint32_t i = 0; i < std::min(faces.size(), part.triangles); ++i) {
            if (!faces[i])
                continue;
            if (!part.runs.empty() && part.runs.back().second + 1 == i)
                part.runs.back().second = i;
            else
                part.runs.emplace_back(i, i);
        }
        if (!part.runs.empty())
            parts_.push_back(std::move(part));
    }
}

std::string ChosenFaces::text() const
{
    std::string out;
    for (const Part& p : parts_) {
        char digest[17] = {};
        std::to_chars(digest, digest + 16, p.digest, 16);
        out += std::string(digest) + ' ' + std::to_string(p.triangles) + ' ';
        for (std::size_t i = 0; i < p.runs.size(); ++i) {
            out += (i ? "," : "") + std::to_string(p.runs[i].first);
            if (p.runs[i].second > p.runs[i].first)
                out += '-' + std::to_string(p.runs[i].second);
        }
        out += ' ' + p.name + '\n';
    }
    return out;
}

std::optional<ChosenFaces> ChosenFaces::parse(const std::string& text)
{
    ChosenFaces out;
    std::string_view left = text;
    while (!left.empty()) {
        const std::size_t end = std::min(left.find('\n'), left.size());
        std::string_view line = left.substr(0, end);
        left.remove_prefix(std::min(left.size(), end + 1));
        Part p;
        if (!take(line, p.digest, 16) || !take(line, ' ') || !take(line, p.triangles) || !take(line, ' '))
            return std::nullopt;
        std::int64_t before = -1;
        do {
            std::uint32_t first = 0;
            if (!take(line, first))
                return std::nullopt;
            std::uint32_t last = first;
            if (take(line, '-') && !take(line, last))
                return std::nullopt;
            if (static_cast<std::int64_t>(first) <= before || last < first || last >= p.triangles)
                return std::nullopt;
            before = last;
            p.runs.emplace_back(first, last);
        } while (take(line, ','));
        if (!take(line, ' '))
            return std::nullopt;
        p.name = std::string(line);
        out.parts_.push_back(std::move(p));
    }
    return out;
}

std::size_t ChosenFaces::count() const
{
    std::size_t n = 0;
    for (const Part& p : parts_)
        for (const auto& [first, last] : p.runs)
            n += last - first + 1;
    return n;
}

ChosenFaces::On ChosenFaces::on(const SetGeometry& set) const
{
    On out;
    const auto names = namesOf(set);
    for (const Part& p : parts_) {
        const auto found = std::find(names.begin(), names.end(), p.name);
        const auto mesh = static_cast<std::size_t>(found - names.begin());
        if (found == names.end() || set.meshes[mesh].indices.size() / 3 != p.triangles ||
            digestOfMesh(set.meshes[mesh]) != p.digest) {
            for (const auto& [first, last] : p.runs)
                out.gone += last - first + 1;
            continue;
        }
        std::vector<bool>& faces = out.faces[mesh];
        faces.resize(p.triangles, false);
        for (const auto& [first, last] : p.runs)
            std::fill(faces.begin() + first, faces.begin() + last + 1, true);
    }
    return out;
}
} // namespace hygros::geometry
