#include "base/words.h"

#include <map>
#include <mutex>

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

std::string englishOf(const std::string& shown)
{
    if (!translation)
        return shown;
    const std::lock_guard lock(mutex);
    const auto found = sources().find(shown);
    return found == sources().end() ? shown : found->second;
}
} // namespace hygros
