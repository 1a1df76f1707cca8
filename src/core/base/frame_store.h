#pragma once
/// Baked frames on disk, by element and frame: the store's sister that stays when the program ends.
///
/// A frame store is a folder. It holds a folder for each element, and in it a file for each frame: eight bytes that say
/// what it is, the length of a text, that text (JSON: element, frame, what the frame came from), what was baked, and a
/// digest of all before. A file is whole or not there: it is written beside, flushed and renamed. Names in it are
/// relative, so that the folder can be moved.
///
/// What a frame came from is a list of origins, each a name and a digest of its content; a frame is fresh while the
/// origins are what they were, and else it can be said which of them are not.
#include <cstdint>
#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <span>
#include <string>
#include <vector>

namespace hygros {

/// By name: a parameter's path, a file, a rule of the bake.
using Origins = std::map<std::string, std::uint64_t>;

/// What differs, in words for people: "gale.speed, gale.heading have changed since"; empty where nothing does.
std::string differenceOf(const Origins& was, const Origins& now);

/// Bytes that were read, kept alive.
struct Payload {
    std::shared_ptr<const char[]> data;
    std::size_t offset = 0, size = 0;
    std::span<const char> bytes() const { return {data.get() + offset, size}; }
};

class FrameStore {
public:
    static constexpr std::uintmax_t usualLimit = std::uintmax_t{20} << 30;
    /// The folder is made with the first frame. `limit` bounds the bytes of all frames.
    explicit FrameStore(std::filesystem::path folder, std::uintmax_t limit = usualLimit);
    FrameStore(const FrameStore&) = delete;
    FrameStore& operator=(const FrameStore&) = delete;
    const std::filesystem::path& folder() const { return folder_; }
    std::uintmax_t limit() const { return limit_; }

    enum class State { Missing, Fresh, Stale, Damaged };
    struct Answer {
        State state = State::Missing;
        std::string why; ///< of what is stale or damaged
        std::uintmax_t bytes = 0;
        std::shared_ptr<const Origins> origins = nullptr; ///< what it came from; null: missing or damaged
    };
    /// What there is of a frame, by its head alone; damage further on shows when it is read.
    Answer look(const std::string& element, int frame, const Origins& now) const;
    /// What was baked. Throws an input Error where it is not there, torn or damaged.
    Payload read(const std::string& element, int frame) const;
    std::filesystem::path fileOf(const std::string& element, int frame) const;

    /// Puts a frame in the place of what was there. Where the limit would be passed, `mayGo` is asked of frames from
    /// the oldest on, and those that may are removed; Throws a working Error where that is not enough or the disk is
    /// full; what was there before is then as it was.
    using MayGo = std::function<bool(const std::string& element, int frame)>;
    void write(const std::string& element, int frame, const Origins& origins, std::span<const char> payload,
               const MayGo& mayGo = {});

    struct Contents {
        std::string element;
        std::vector<int> frames; ///< rising
        std::uintmax_t bytes = 0;
    };
    /// Everything in it, by element.
    std::vector<Contents> contents() const;
    std::uintmax_t bytes() const;
    /// Removes an element's frames; all there is with an empty name. Returns the bytes that went.
    std::uintmax_t purge(const std::string& element = {});
    void remove(const std::string& element, int frame);

private:
    struct Head {
        std::filesystem::file_time_type modified;
        std::uintmax_t size = 0;
        std::shared_ptr<const Origins> origins; ///< null: damaged
        std::string damage;
    };
    Head headOf(const std::filesystem::path& file) const;

    std::filesystem::path folder_;
    std::uintmax_t limit_;
    mutable std::mutex mutex_;
    mutable std::map<std::filesystem::path, Head> heads_; ///< as last read
};
} // namespace hygros
