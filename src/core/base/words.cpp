#include "base/words.h"

#include <array>
#include <map>
#include <mutex>
#include <optional>

namespace hygros {
namespace {
Words translation = nullptr;
std::mutex mutex;
std::map<std::string, std::string>& sources()
{
    static std::map<std::string, std::string> all;
    return all;
}
} // namespace

void setWords(Words translate) { translation = translate; }

std::string words(const std::string& english)
{
    if (!translation || english.empty())
        return english;
    std::string shown = translation(english);
    if (shown != english) {
        const std::lock_guard lock(mutex);
        sources().emplace(shown, english);
    }
    return shown;
}

std::string words(const std::string& english, const std::vector<std::string>& told)
{
    const std::string shown = words(english);
    std::string out;
    for (std::size_t i = 0; i < shown.size(); ++i)
        if (shown[i] == '%' && i + 1 < shown.size() && shown[i + 1] >= '1' &&
            static_cast<std::size_t>(shown[i + 1] - '1') < told.size())
            out += told[static_cast<std::size_t>(shown[++i] - '1')];
        else
            out += shown[i];
    return out;
}

namespace {
/// A sentence cut at its places.
struct Pattern {
    std::vector<std::string> between; ///< one more than places
    std::vector<std::size_t> places;  ///< which each is, from 0
    std::size_t letters = 0;
};
struct Known {
    Pattern english, shown;
};
std::vector<Known>& sentences()
{
    static std::vector<Known> all;
    return all;
}
constexpr std::size_t mostPlaces = 9;

Pattern cut(const std::string& text)
{
    Pattern out;
    out.between.emplace_back();
    for (std::size_t i = 0; i < text.size(); ++i)
        if (text[i] == '%' && i + 1 < text.size() && text[i + 1] >= '1' && text[i + 1] <= '9') {
            out.places.push_back(static_cast<std::size_t>(text[++i] - '1'));
            out.between.emplace_back();
        } else {
            out.between.back() += text[i];
        }
    for (const std::string& part : out.between)
        out.letters += part.size();
    return out;
}

/// What fills the places of a pattern in a text, by place; nothing where it does not fit.
std::optional<std::array<std::string, mostPlaces>> filled(const Pattern& p, const std::string& text)
{
    std::array<std::string, mostPlaces> out;
    if (!text.starts_with(p.between.front()))
        return {};
    std::size_t at = p.between.front().size();
    for (std::size_t k = 0; k < p.places.size(); ++k) {
        const std::string& next = p.between[k + 1];
        const bool last = k + 1 == p.places.size();
        if (last && (text.size() < at + next.size() || !text.ends_with(next)))
            return {};
        const std::size_t end = last ? text.size() - next.size() : text.find(next, at);
        if (end == std::string::npos)
            return {};
        out[p.places[k]] = text.substr(at, end - at);
        at = end + next.size();
    }
    return at == text.size() ? std::optional(out) : std::nullopt;
}
} // namespace

void setSentences(std::vector<std::pair<std::string, std::string>> known)
{
    sentences().clear();
    for (const auto& [english, shown] : known)
        sentences().push_back({cut(english), cut(shown)});
}

std::string sentence(const std::string& english)
{
    const Known* best = nullptr;
    std::array<std::string, mostPlaces> places;
    for (const Known& k : sentences())
        if (!best || k.english.letters > best->english.letters)
            if (auto found = filled(k.english, english)) {
                best = &k;
                places = std::move(*found);
            }
    if (!best)
        return english;
    std::string out = best->shown.between.front();
    for (std::size_t i = 0; i < best->shown.places.size(); ++i) {
        const std::string& told = places[best->shown.places[i]];
        // (Each is shorter than what it stands in.)
        out += (told.size() < english.size() ? sentence(told) : told) + best->shown.between[i + 1];
    }
    return out;
}

std::string englishOf(const std::string& shown)
{
    if (!translation)
        return shown;
    const std::lock_guard lock(mutex);
    const auto found = sources().find(shown);
    return found == sources().end() ? shown : found->second;
}
} // namespace hygros
