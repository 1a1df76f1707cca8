#include "base/frame_store.h"

#include "base/atomic_file.h"
#include "base/digest.h"
#include "base/error.h"
#include "base/words.h"

#include <algorithm>
#include <cctype>
#include <cerrno>
#include <charconv>
#include <cstdio>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <nlohmann/json.hpp>
#include <unistd.h>

namespace hygros {
namespace fs = std::filesystem;

namespace {
constexpr char mark[] = "HYGBAKE1";
constexpr std::size_t markBytes = 8, lengthBytes = 4, digestBytes = 8;
constexpr std::uint32_t longestHead = 1u << 24;
constexpr const char* ending = ".baked";

/// An id as a folder's name: letters, digits, hyphen and underline stay, other bytes become %XX.
std::string folderName(const std::string& element)
{
    std::string name;
    for (const char c : element)
        if (std::isalnum(static_cast<unsigned char>(c)) || c == '-' || c == '_') {
            name += c;
        } else {
            char text[4];
            std::snprintf(text, sizeof text, "%%%02X", static_cast<unsigned>(static_cast<unsigned char>(c)));
            name += text;
        }
    return name;
}
std::string elementNamed(const std::string& folder)
{
    std::string element;
    for (std::size_t i = 0; i < folder.size(); ++i) {
        unsigned byte = 0;
        if (folder[i] == '%' && i + 2 < folder.size() &&
            std::from_chars(folder.data() + i + 1, folder.data() + i + 3, byte, 16).ptr == folder.data() + i + 3) {
            element += static_cast<char>(byte);
            i += 2;
        } else {
            element += folder[i];
        }
    }
    return element;
}
/// The number in "12.baked".
bool frameNumber(const fs::path& file, int& frame)
{
    const std::string stem = file.stem().string();
    if (file.extension() != ending)
        return false;
    const auto [end, error] = std::from_chars(stem.data(), stem.data() + stem.size(), frame);
    return error == std::errc() && end == stem.data() + stem.size();
}

std::string hex(std::uint64_t digest)
{
    char text[17];
    std::snprintf(text, sizeof text, "%016llx", static_cast<unsigned long long>(digest));
    return text;
}

Origins originsIn(const std::string& text)
{
    const auto head = nlohmann::json::parse(text);
    Origins origins;
    for (const auto& [name, digest] : head.at("origins").items())
        origins[name] = std::stoull(digest.get<std::string>(), nullptr, 16);
    return origins;
}

/// Reads `count` bytes or says why not.
bool readFully(int fd, char* to, std::size_t count)
{
    while (count > 0) {
        const auto got = ::read(fd, to, count);
        if (got < 0 && errno == EINTR)
            continue;
        if (got <= 0)
            return false;
        to += got;
        count -= static_cast<std::size_t>(got);
    }
    return true;
}
} // namespace

std::string differenceOf(const Origins& was, const Origins& now)
{
    std::vector<std::string> changed, added, gone;
    for (const auto& [name, digest] : now)
        if (const auto found = was.find(name); found == was.end())
            added.push_back(name);
        else if (found->second != digest)
            changed.push_back(name);
    for (const auto& [name, digest] : was)
        if (!now.count(name) && !name.starts_with("other "))
            gone.push_back(name);
    std::string text;
    const auto say = [&](const std::vector<std::string>& names, const char* one, const char* many) {
        if (names.empty())
            return;
        std::string all;
        for (std::size_t i = 0; i < names.size() && i < 4; ++i)
            all += (i ? ", " : "") + sentence(names[i]);
        if (names.size() > 4)
            all += words(" and ") + std::to_string(names.size() - 4) + words(" more");
        text += (text.empty() ? "" : "; ") + sentence(all + (names.size() == 1 ? one : many));
    };
    // (Known as sentences: "%1 has changed since", and so on.)
    say(changed, " has changed since", " have changed since");
    say(added, " has come since", " have come since");
    say(gone, " is gone", " are gone");
    for (const auto& [name, digest] : was) // what came in on the way is said as it is
        if (!now.count(name) && name.starts_with("other "))
            text += (text.empty() ? "" : "; ") + sentence(name);
    return text;
}

FrameStore::FrameStore(fs::path folder, std::uintmax_t limit) : folder_(std::move(folder)), limit_(limit) {}

fs::path FrameStore::fileOf(const std::string& element, int frame) const
{
    return folder_ / folderName(element) / (std::to_string(frame) + ending);
}

FrameStore::Head FrameStore::headOf(const fs::path& file) const
{
    std::error_code none;
    Head head;
    head.size = fs::file_size(file, none);
    if (none)
        return {};
    head.modified = fs::last_write_time(file, none);
    {
        const std::lock_guard lock(mutex_);
        if (const auto kept = heads_.find(file);
            kept != heads_.end() && kept->second.size == head.size && kept->second.modified == head.modified)
            return kept->second;
    }
    std::ifstream in(file, std::ios::binary);
    char start[markBytes];
    std::uint32_t length = 0;
    in.read(start, markBytes);
    in.read(reinterpret_cast<char*>(&length), lengthBytes);
    if (!in || std::memcmp(start, mark, markBytes) != 0) {
        head.damage = sentence("it is not a baked frame");
    } else if (length > longestHead || markBytes + lengthBytes + length + digestBytes > head.size) {
        head.damage = sentence("it is torn");
    } else {
        std::string text(length, '\0');
        in.read(text.data(), static_cast<std::streamsize>(length));
        try {
            head.origins = std::make_shared<const Origins>(originsIn(text));
        } catch (const std::exception&) {
            head.damage = sentence("its head is damaged");
        }
    }
    const std::lock_guard lock(mutex_);
    return heads_[file] = head;
}

FrameStore::Answer FrameStore::look(const std::string& element, int frame, const Origins& now) const
{
    const Head head = headOf(fileOf(element, frame));
    if (head.size == 0 && head.damage.empty())
        return {};
    if (!head.origins)
        return {State::Damaged, head.damage, head.size};
    std::string why = differenceOf(*head.origins, now);
    return {why.empty() ? State::Fresh : State::Stale, why, head.size, head.origins};
}

Payload FrameStore::read(const std::string& element, int frame) const
{
    const fs::path file = fileOf(element, frame);
    const std::string doing = "Reading a baked frame";
    const auto damaged = [&](const std::string& why) {
        return inputError(doing, file.string(), why, "Bake it again.");
    };
    const int fd = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0)
        throw inputError(doing, file.string(), std::strerror(errno));
    const auto end = ::lseek(fd, 0, SEEK_END);
    const auto size = end < 0 ? std::size_t{0} : static_cast<std::size_t>(end);
    ::lseek(fd, 0, SEEK_SET);
    if (size < markBytes + lengthBytes + digestBytes) {
        ::close(fd);
        throw damaged("it is torn");
    }
    const std::shared_ptr<char[]> data(new char[size]);
    const bool whole = readFully(fd, data.get(), size);
    ::close(fd);
    if (!whole)
        throw damaged("it could not be read to the end");
    std::uint32_t length = 0;
    std::memcpy(&length, data.get() + markBytes, lengthBytes);
    if (std::memcmp(data.get(), mark, markBytes) != 0)
        throw damaged("it is not a baked frame");
    const std::size_t start = markBytes + lengthBytes + std::size_t{length};
    if (start + digestBytes > size)
        throw damaged("it is torn");
    std::uint64_t digest = 0;
    std::memcpy(&digest, data.get() + size - digestBytes, digestBytes);
    if (digest != digestOf({data.get(), size - digestBytes}))
        throw damaged("its content is damaged");
    return {data, start, size - digestBytes - start};
}

void FrameStore::write(const std::string& element, int frame, const Origins& origins, std::span<const char> payload,
                       const MayGo& mayGo)
{
    const fs::path file = fileOf(element, frame);
    nlohmann::json head{{"element", element}, {"frame", frame}, {"origins", nlohmann::json::object()}};
    for (const auto& [name, digest] : origins)
        head["origins"][name] = hex(digest);
    const std::string text = head.dump();
    const auto length = static_cast<std::uint32_t>(text.size());
    std::string bytes;
    bytes.reserve(markBytes + lengthBytes + text.size() + payload.size() + digestBytes);
    bytes.append(mark, markBytes);
    bytes.append(reinterpret_cast<const char*>(&length), lengthBytes);
    bytes += text;
    bytes.append(payload.data(), payload.size());
    const std::uint64_t digest = digestOfText(bytes);
    bytes.append(reinterpret_cast<const char*>(&digest), digestBytes);

    std::error_code none;
    std::uintmax_t others = this->bytes();
    if (const auto own = fs::file_size(file, none); !none)
        others -= std::min(own, others);
    if (others + bytes.size() > limit_ && mayGo) {
        struct Old {
            fs::file_time_type when;
            std::string element;
            int frame;
            std::uintmax_t bytes;
        };
        std::vector<Old> old;
        for (const Contents& c : contents())
            for (const int f : c.frames) {
                const fs::path path = fileOf(c.element, f);
                if (path != file && mayGo(c.element, f))
                    old.push_back({fs::last_write_time(path, none), c.element, f, fs::file_size(path, none)});
            }
        std::sort(old.begin(), old.end(), [](const Old& a, const Old& b) { return a.when < b.when; });
        for (const Old& o : old) {
            if (others + bytes.size() <= limit_)
                break;
            remove(o.element, o.frame);
            others -= std::min(o.bytes, others);
        }
    }
    if (others + bytes.size() > limit_)
        throw workingError("Baking", element,
                           "the frame store is full: frame " + std::to_string(frame) + " would make it larger than " +
                               std::to_string(limit_ >> 20) + " MB",
                           "Purge what is not needed any more, or allow more.");
    fs::create_directories(file.parent_path(), none);
    if (none)
        throw workingError("Baking", file.parent_path().string(), none.message(), "Check free space and permissions.");
    writeAtomically(file, [&](const fs::path& temporary) {
        const int fd = ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
        bool good = fd >= 0;
        for (std::size_t done = 0; good && done < bytes.size();) {
            const auto put = ::write(fd, bytes.data() + done, bytes.size() - done);
            if (put < 0 && errno == EINTR)
                continue;
            good = put > 0;
            done += good ? static_cast<std::size_t>(put) : 0;
        }
        const int why = errno;
        if (fd >= 0)
            ::close(fd);
        if (!good)
            throw workingError("Baking", file.string(), std::strerror(why),
                               "Frames baked before are kept; check free space and permissions, then go on.");
    });
}

std::vector<FrameStore::Contents> FrameStore::contents() const
{
    std::vector<Contents> all;
    std::error_code none;
    for (const auto& folder : fs::directory_iterator(folder_, none)) {
        if (!folder.is_directory(none))
            continue;
        Contents c;
        c.element = elementNamed(folder.path().filename().string());
        for (const auto& file : fs::directory_iterator(folder.path(), none))
            if (int frame = 0; frameNumber(file.path(), frame)) {
                c.frames.push_back(frame);
                c.bytes += file.file_size(none);
            }
        std::sort(c.frames.begin(), c.frames.end());
        if (!c.frames.empty())
            all.push_back(std::move(c));
    }
    std::sort(all.begin(), all.end(), [](const Contents& a, const Contents& b) { return a.element < b.element; });
    return all;
}

std::uintmax_t FrameStore::bytes() const
{
    std::uintmax_t sum = 0;
    for (const Contents& c : contents())
        sum += c.bytes;
    return sum;
}

std::uintmax_t FrameStore::purge(const std::string& element)
{
    std::uintmax_t gone = 0;
    std::error_code none;
    for (const Contents& c : contents())
        if (element.empty() || c.element == element) {
            for (const int frame : c.frames)
                remove(c.element, frame);
            fs::remove(folder_ / folderName(c.element), none); // where nothing else lies in it
            gone += c.bytes;
        }
    fs::remove(folder_, none);
    return gone;
}

void FrameStore::remove(const std::string& element, int frame)
{
    const fs::path file = fileOf(element, frame);
    std::error_code none;
    fs::remove(file, none);
    const std::lock_guard lock(mutex_);
    heads_.erase(file);
}
} // namespace hygros
