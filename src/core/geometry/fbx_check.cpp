#include "geometry/fbx_check.h"

#include "base/atomic_file.h"
#include "base/error.h"

#include <algorithm>
#include <charconv>
#include <cstdint>
#include <cstring>
#include <map>
#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace hygros::geometry {
namespace {
constexpr int deepestBlock = 64, deepestModel = 1000;
constexpr double mostPlaces = 1e6;

using Id = std::uint64_t;

/// Which models there are, and what hangs on what.
class Hierarchy {
public:
    explicit Hierarchy(const std::filesystem::path& file) : file_(file) {}

    void model(Id id) { models_.insert(id); }
    void link(Id child, Id parent) { links_.emplace_back(child, parent); }
    Error damaged(const std::string& why) const
    {
        return inputError("Importing", file_.string(), "it is damaged (" + why + ")", "Nothing was replaced.");
    }
    void block(int depth) const
    {
        if (depth > deepestBlock)
            throw damaged("its blocks lie in each other more than " + std::to_string(deepestBlock) + " deep");
    }
    void check()
    {
        models_.insert(0); // on which all hang that hang on no other
        std::map<Id, std::vector<Id>> children;
        std::map<Id, int> waiting;
        for (const auto& [child, parent] : links_)
            if (models_.contains(child) && models_.contains(parent)) {
                children[parent].push_back(child);
                ++waiting[child];
            }
        // Each after all that it hangs on: how often it comes and how deep.
        struct Place {
            double times = 0.0;
            int depth = 0;
        };
        std::map<Id, Place> places;
        places[0].times = 1.0;
        std::vector<Id> ready;
        std::size_t done = 0;
        for (const Id id : models_)
            if (!waiting.contains(id))
                ready.push_back(id);
        double all = 0.0;
        while (!ready.empty()) {
            const Id id = ready.back();
            ready.pop_back();
            ++done;
            const Place here = places[id];
            all += here.times;
            if (here.depth > deepestModel)
                throw damaged("its models hang on each other more than " + std::to_string(deepestModel) + " deep");
            if (all > mostPlaces)
                throw damaged("its models come in more than a million places");
            for (const Id child : children[id]) {
                places[child].times += here.times;
                places[child].depth = std::max(places[child].depth, here.depth + 1);
                if (--waiting[child] == 0)
                    ready.push_back(child);
            }
        }
        if (done < models_.size())
            throw damaged("its models hang on each other in a circle");
    }

private:
    const std::filesystem::path& file_;
    std::set<Id> models_;
    std::vector<std::pair<Id, Id>> links_;
};

/// So many values behind a key are looked at.
constexpr std::size_t most = 4;
/// A key with what stands behind it: a model's number, or the two that are linked.
void tell(Hierarchy& to, std::string_view key, const std::vector<std::string_view>& values)
{
    const auto number = [&](std::size_t i, Id& id) {
        if (i >= values.size())
            return false;
        const std::string_view v = values[i];
        return std::from_chars(v.data(), v.data() + v.size(), id).ec == std::errc();
    };
    Id a = 0, b = 0;
    if (key == "Model" && number(0, a))
        to.model(a);
    else if (key == "C" && !values.empty() && number(1, a) && number(2, b)) {
        // Properties hang on each other, and on objects by their names; all else is of objects, whatever it is called.
        const bool isOfProperty = values[0] == "PP" || (values[0] == "OP" && values.size() > 3 && !values[3].empty());
        if (!isOfProperty)
            to.link(a, b);
    }
}

void walkText(std::string_view text, Hierarchy& to)
{
    std::string_view key;
    std::vector<std::string_view> values;
    int depth = 0;
    const auto ends = [&] {
        tell(to, key, values);
        values.clear();
    };
    for (std::size_t i = 0; i < text.size();) {
        const char c = text[i];
        if (c == ';') {
            i = std::min(text.size(), text.find_first_of("\r\n", i));
        } else if (c == '"') {
            const std::size_t end = std::min(text.size(), text.find('"', i + 1));
            if (values.size() < most)
                values.push_back(text.substr(i + 1, end - i - 1));
            i = end + 1;
        } else if (c == '{' || c == '}') {
            ends();
            key = {};
            depth = std::max(0, depth + (c == '{' ? 1 : -1));
            to.block(depth);
            ++i;
        } else if (std::strchr(" \t\r\n,:", c) || c == 0) {
            ++i;
        } else {
            const std::size_t end = std::min(text.size(), text.find_first_of(" \t\r\n,:;{}\"", i));
            const std::string_view word = text.substr(i, end - i);
            const std::size_t next = text.find_first_not_of(" \t", end);
            if (next != std::string_view::npos && text[next] == ':') {
                ends();
                key = word;
            } else if (values.size() < most) {
                values.push_back(word);
            }
            i = end;
        }
    }
    ends();
}

/// Records that end where they say, each with its values and records of its own.
class Binary {
public:
    Binary(std::string_view bytes, Hierarchy& to) : bytes_(bytes), to_(to)
    {
        constexpr std::size_t version = 23, begins = 27;
        std::uint32_t v = 0;
        std::memcpy(&v, bytes.data() + version, sizeof v);
        isWide_ = v >= 7500;
        records(begins, bytes.size(), 0);
    }

private:
    template <class T> bool get(std::size_t& at, std::size_t end, T& value) const
    {
        if (end > bytes_.size() || at > end || end - at < sizeof value)
            return false;
        std::memcpy(&value, bytes_.data() + at, sizeof value);
        at += sizeof value;
        return true;
    }
    bool size(std::size_t& at, std::size_t end, std::uint64_t& value) const
    {
        if (isWide_)
            return get(at, end, value);
        std::uint32_t narrow = 0;
        const bool good = get(at, end, narrow);
        value = narrow;
        return good;
    }
    /// The first values, as text; what is neither a number nor a text stands for nothing.
    std::vector<std::string> values(std::size_t at, std::size_t end, std::uint64_t count) const
    {
        std::vector<std::string> out;
        for (std::uint64_t i = 0; i < std::min<std::uint64_t>(count, most); ++i) {
            char kind = 0;
            std::int64_t number = 0;
            std::uint32_t length = 0;
            if (!get(at, end, kind))
                break;
            if (kind == 'L' && get(at, end, number)) {
                out.push_back(std::to_string(static_cast<Id>(number)));
            } else if (kind == 'S' && get(at, end, length) && length <= end - at) {
                out.emplace_back(bytes_.substr(at, length));
                at += length;
            } else {
                break;
            }
        }
        return out;
    }
    /// What does not fit is for the reader to refuse.
    void records(std::size_t at, std::size_t end, int depth)
    {
        to_.block(depth);
        while (at < end) {
            std::uint64_t stops = 0, count = 0, length = 0;
            std::uint8_t letters = 0;
            if (!size(at, end, stops) || !size(at, end, count) || !size(at, end, length) || !get(at, end, letters))
                return;
            if (stops == 0)
                return; // the last of a block
            if (stops <= at || stops > end || letters > stops - at || length > stops - at - letters)
                return;
            const std::string_view key = bytes_.substr(at, letters);
            const std::size_t first = at + letters, inner = first + static_cast<std::size_t>(length);
            if (key == "Model" || key == "C") {
                const std::vector<std::string> all = values(first, inner, count);
                tell(to_, key, {all.begin(), all.end()});
            }
            records(inner, static_cast<std::size_t>(stops), depth + 1);
            at = static_cast<std::size_t>(stops);
        }
    }

    std::string_view bytes_;
    Hierarchy& to_;
    bool isWide_ = false;
};
} // namespace

void checkFbx(const std::filesystem::path& file)
{
    const std::string bytes = readText(file, "Importing");
    Hierarchy all(file);
    // The binary form begins with 20 letters and these.
    constexpr std::size_t head = 27;
    if (bytes.size() >= head && bytes[20] == 0 && bytes[21] == 0x1a && bytes[22] == 0)
        Binary(bytes, all);
    else
        walkText(bytes, all);
    all.check();
}
} // namespace hygros::geometry
