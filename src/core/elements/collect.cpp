#include "elements/collect.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "geometry/gltf_uri.h"
#include "image/colour_config.h"

#include <algorithm>
#include <cstring>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

namespace hygros::elements {
namespace {
namespace fs = std::filesystem;

bool isFile(const fs::path& file)
{
    std::error_code ignored;
    return fs::is_regular_file(file, ignored);
}
std::string endingOf(const fs::path& file)
{
    std::string e = file.extension().string();
    std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return std::tolower(c); });
    return e;
}

void fromGltf(const std::string& text, const fs::path& folder, std::vector<fs::path>& out)
{
    const auto json = nlohmann::json::parse(text, nullptr, false);
    if (!json.is_object())
        return;
    for (const char* list : {"buffers", "images"})
        if (const auto found = json.find(list); found != json.end() && found->is_array())
            for (const auto& one : *found)
                if (const auto uri = one.is_object() ? one.find("uri") : one.end();
                    one.is_object() && uri != one.end() && uri->is_string())
                    if (const auto name = uri->get<std::string>(); !name.starts_with("data:"))
                        out.push_back(folder / geometry::decodedUri(name));
}

/// The JSON of a binary glTF.
std::string jsonOfGlb(const fs::path& file)
{
    std::ifstream in(file, std::ios::binary);
    char head[20];
    if (!in.read(head, 20) || std::memcmp(head, "glTF", 4) != 0)
        return {};
    std::uint32_t length = 0;
    std::memcpy(&length, head + 12, 4);
    if (length > 256u * 1024u * 1024u)
        return {};
    std::string text(length, ' ');
    in.read(text.data(), length);
    return in ? text : std::string();
}

/// What stands after a keyword at a line's begin, as one name.
void fromLines(const fs::path& file, const std::vector<std::string>& words, std::vector<fs::path>& out)
{
    std::ifstream in(file);
    std::string line;
    while (std::getline(in, line)) {
        std::istringstream parts(line);
        std::string word, name;
        parts >> word;
        if (std::none_of(words.begin(), words.end(), [&](const std::string& w) { return word == w; }))
            continue;
        // Options of a texture (-bm 0.5) come before its name, which may have blanks in it.
        std::getline(parts >> std::ws, name);
        while (!name.empty() && (name.back() == '\r' || name.back() == ' '))
            name.pop_back();
        if (!name.empty() && name[0] == '-')
            name = name.substr(name.find_last_of(' ') + 1);
        std::replace(name.begin(), name.end(), '\\', '/');
        if (!name.empty())
            out.push_back(file.parent_path() / name);
    }
}

/// All files of a numbered name.
std::vector<fs::path> frames(const fs::path& file)
{
    const std::string name = file.filename().string();
    const auto first = name.find('#');
    if (first == std::string::npos)
        return {};
    const auto end = name.find_first_not_of('#', first);
    const std::string before = name.substr(0, first), after = end == std::string::npos ? "" : name.substr(end);
    std::vector<fs::path> out;
    std::error_code ignored;
    for (const auto& entry : fs::directory_iterator(file.parent_path(), ignored)) {
        const std::string n = entry.path().filename().string();
        if (n.size() <= before.size() + after.size() || !n.starts_with(before) || !n.ends_with(after))
            continue;
        const std::string number = n.substr(before.size(), n.size() - before.size() - after.size());
        if (std::all_of(number.begin(), number.end(), [](unsigned char c) { return std::isdigit(c) || c == '-'; }) &&
            isFile(entry.path()))
            out.push_back(entry.path());
    }
    std::sort(out.begin(), out.end());
    return out;
}

bool sameContent(const fs::path& a, const fs::path& b)
{
    std::error_code bad;
    if (fs::file_size(a, bad) != fs::file_size(b, bad) || bad)
        return false;
    std::ifstream x(a, std::ios::binary), y(b, std::ios::binary);
    std::vector<char> p(1 << 16), q(p.size());
    while (x && y) {
        x.read(p.data(), static_cast<std::streamsize>(p.size()));
        y.read(q.data(), static_cast<std::streamsize>(q.size()));
        if (x.gcount() != y.gcount() || !std::equal(p.begin(), p.begin() + x.gcount(), q.begin()))
            return false;
    }
    return true;
}

bool liesIn(const fs::path& file, const fs::path& folder)
{
    const auto relative = file.lexically_relative(folder);
    return !relative.empty() && *relative.begin() != "..";
}

/// The folder that all of them lie in.
fs::path commonFolder(const std::vector<fs::path>& files)
{
    fs::path common = files.front().parent_path();
    for (const fs::path& f : files)
        while (!liesIn(f, common) && common != common.root_path())
            common = common.parent_path();
    return common;
}
} // namespace

std::vector<fs::path> withCompanions(const fs::path& file)
{
    std::vector<fs::path> out = frames(file);
    if (out.empty() && isFile(file)) {
        out.push_back(file);
        const std::string ending = endingOf(file);
        try {
            if (ending == ".ocio") {
                const auto config = image::ColourConfig::load(file);
                for (const FileVersion& beside : config->beside())
                    out.push_back(beside.path);
            } else if (ending == ".gltf") {
                fromGltf(readText(file, "Collecting"), file.parent_path(), out);
            } else if (ending == ".glb") {
                fromGltf(jsonOfGlb(file), file.parent_path(), out);
            } else if (ending == ".obj") {
                std::vector<fs::path> materials;
                fromLines(file, {"mtllib"}, materials);
                for (const fs::path& m : materials) {
                    out.push_back(m);
                    fromLines(m,
                              {"map_Kd", "map_Ka", "map_Ks", "map_Ke", "map_Ns", "map_d", "map_Bump", "map_bump",
                               "bump", "norm", "map_Pr", "map_Pm", "disp"},
                              out);
                }
            }
        } catch (const std::exception&) {
            // It will be said where it is imported.
        }
    }
    std::set<fs::path> seen;
    std::erase_if(out, [&](fs::path& f) {
        f = f.lexically_normal();
        return !isFile(f) || !seen.insert(f).second;
    });
    return out;
}

Collected collect(scene::Project& project, const fs::path& target, JobControl& job)
{
    Collected told;
    scene::Project next = project;
    const fs::path beside = fs::absolute(target).lexically_normal().parent_path(),
                   into = beside / (target.stem().string() + "-files");
    std::map<fs::path, fs::path> moved; // where what was named is now
    std::set<fs::path> taken;
    struct Copy {
        fs::path from, to;
    };
    std::vector<Copy> copies;
    const auto name = [&](const fs::path& file) { return file.lexically_relative(beside).generic_string(); };
    for (scene::Element& e : next.elements)
        for (const scene::Parameter& p : e.kind->parameters) {
            if (p.type != scene::ValueType::File)
                continue;
            const auto text = std::get<std::string>(e.value(p.id));
            if (text.empty())
                continue;
            const fs::path file = fs::absolute(scene::resolved(project, text)).lexically_normal();
            if (const auto found = moved.find(file); found != moved.end()) {
                e.set(p.id, name(found->second));
                continue;
            }
            const std::vector<fs::path> all = withCompanions(file);
            if (all.empty()) {
                told.missing.push_back(file.string());
                if (project.folder.empty() || fs::absolute(project.folder).lexically_normal() != beside)
                    e.set(p.id, file.generic_string());
                continue;
            }
            if (std::all_of(all.begin(), all.end(), [&](const fs::path& f) { return liesIn(f, beside); })) {
                told.there += static_cast<int>(all.size());
                moved[file] = file;
                e.set(p.id, name(file));
                continue;
            }
            // What belongs together keeps its places to each other.
            const fs::path common = commonFolder(all);
            fs::path own = into / e.id;
            const auto isFree = [&] {
                return std::none_of(all.begin(), all.end(), [&](const fs::path& f) {
                    const fs::path to = own / f.lexically_relative(common);
                    return taken.contains(to) || (fs::exists(to) && !sameContent(f, to));
                });
            };
            for (int k = 2; !isFree(); ++k)
                own = into / (e.id + "-" + std::to_string(k));
            for (const fs::path& f : all) {
                copies.push_back({f, own / f.lexically_relative(common)});
                taken.insert(copies.back().to);
            }
            moved[file] = own / file.lexically_relative(common);
            e.set(p.id, name(moved[file]));
        }
    for (std::size_t i = 0; i < copies.size(); ++i) {
        const auto& [from, to] = copies[i];
        job.check();
        job.report(static_cast<float>(i) / static_cast<float>(copies.size()), "Copying " + from.filename().string());
        std::error_code ignored;
        told.bytes += fs::file_size(from, ignored);
        ++told.copied;
        if (isFile(to))
            continue; // the same
        fs::create_directories(to.parent_path(), ignored);
        writeAtomically(to, [&, source = from](const fs::path& part) {
            fs::copy_file(source, part, fs::copy_options::overwrite_existing);
        });
    }
    next.folder = beside;
    project = std::move(next);
    return told;
}
} // namespace hygros::elements
