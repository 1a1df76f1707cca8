#include "media/vdb_check.h"

#include "base/error.h"

#include <bit>
#include <cstdint>
#include <cstring>
#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>
#include <vector>

namespace hygros::media {
namespace {
constexpr const char* doing = "Reading volumes from";

/// The file's bytes, as long as this lives.
class Mapped {
public:
    explicit Mapped(const std::filesystem::path& file)
    {
        std::error_code ec;
        if (std::filesystem::is_directory(file, ec))
            throw inputError(doing, file.string(), "it is a folder");
        descriptor_ = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
        struct stat facts {};
        if (descriptor_ < 0 || ::fstat(descriptor_, &facts) != 0)
            throw inputError(doing, file.string(),
                             std::filesystem::exists(file, ec) ? "it cannot be opened" : "there is no such file");
        size = static_cast<std::uint64_t>(facts.st_size);
        if (size == 0)
            throw inputError(doing, file.string(), "it is empty");
        void* at = ::mmap(nullptr, size, PROT_READ, MAP_PRIVATE, descriptor_, 0);
        if (at == MAP_FAILED)
            throw inputError(doing, file.string(), "it cannot be read");
        data = static_cast<const unsigned char*>(at);
    }
    ~Mapped()
    {
        if (data)
            ::munmap(const_cast<unsigned char*>(data), size);
        if (descriptor_ >= 0)
            ::close(descriptor_);
    }
    Mapped(const Mapped&) = delete;
    Mapped& operator=(const Mapped&) = delete;
    const unsigned char* data = nullptr;
    std::uint64_t size = 0;

private:
    int descriptor_ = -1;
};

enum Compression : std::uint32_t { zip = 1, activeMask = 2, blosc = 4 };

class Walk {
public:
    Walk(const Mapped& file, std::string name) : file_(file), name_(std::move(name)) {}

    std::set<std::string> all()
    {
        std::set<std::string> unknown;
        if (file_.size < 8 || number<std::uint64_t>() != 0x56444220u)
            throw inputError(doing, name_, "it is no OpenVDB file");
        const auto version = number<std::uint32_t>();
        if (version < 222 || version > 224)
            throw inputError(doing, name_, "its format version " + std::to_string(version) + " is not known",
                             "Write it again with a newer program.");
        number<std::uint32_t>();
        number<std::uint32_t>();
        if (!number<char>())
            throw inputError(doing, name_, "it was written as a stream, without a table of contents",
                             "Write it again as a file.");
        skip(36);
        notes();
        const auto grids = number<std::uint32_t>();
        if (grids > 100000)
            throw damaged("it claims " + std::to_string(grids) + " grids");
        struct Entry {
            std::string name, type;
            std::uint64_t grid, blocks;
            bool instance;
        };
        std::vector<Entry> entries;
        for (std::uint32_t i = 0; i < grids; ++i) {
            Entry e;
            e.name = text();
            e.type = text();
            e.instance = !text().empty();
            e.grid = number<std::uint64_t>();
            e.blocks = number<std::uint64_t>();
            const auto end = number<std::uint64_t>();
            if (end > file_.size)
                throw cut();
            if (e.grid < at_ || e.blocks < e.grid || end < e.blocks)
                throw damaged("its table of contents contradicts itself");
            entries.push_back(e);
            at_ = end;
        }
        for (const Entry& e : entries) {
            const auto end = e.name.find('\x1e'); // what tells grids of one name apart
            if (!grid(e.type, e.grid, e.blocks, e.instance))
                unknown.insert(e.name.substr(0, end));
        }
        return unknown;
    }

private:
    Error cut() const
    {
        return inputError(doing, name_, "it ends too early (" + std::to_string(file_.size) + " bytes are there)",
                          "Copy it again from where it came, or write it again.");
    }
    Error damaged(const std::string& why) const
    {
        return inputError(doing, name_, "it is damaged: " + why,
                          "Copy it again from where it came, or write it again.");
    }
    void skip(std::uint64_t bytes)
    {
        if (bytes > file_.size - at_)
            throw cut();
        at_ += bytes;
    }
    template <class T> T number()
    {
        T v{};
        const std::uint64_t from = at_;
        skip(sizeof v);
        std::memcpy(&v, file_.data + from, sizeof v);
        return v;
    }
    std::string text()
    {
        const auto length = number<std::uint32_t>();
        if (length > 1u << 20)
            throw damaged("a name in it is said to be " + std::to_string(length) + " letters long");
        const std::uint64_t from = at_;
        skip(length);
        return {reinterpret_cast<const char*>(file_.data + from), length};
    }
    void notes()
    {
        const auto count = number<std::uint32_t>();
        if (count > 100000)
            throw damaged("its notes are without end");
        for (std::uint32_t i = 0; i < count; ++i) {
            const std::string name = text(), type = text();
            if (name.empty())
                throw damaged("a note in it has no name");
            const auto length = number<std::uint32_t>();
            static constexpr std::pair<const char*, std::uint32_t> fixed[] = {
                {"bool", 1},   {"int32", 4},  {"int64", 8}, {"float", 4}, {"double", 8}, {"vec3i", 12},
                {"vec3s", 12}, {"vec3d", 24}, {"vec2i", 8}, {"vec2s", 8}, {"vec2d", 16}};
            for (const auto& [known, bytes] : fixed)
                if (type == known && length != bytes)
                    throw damaged("note '" + name + "' has a wrong size");
            if (type == "__delayedload" && length > 0)
                leafSizes(length);
            else
                skip(length);
        }
    }
    /// A note of how each leaf is packed: how many there are, a byte for each, and how large each is; both packed, with
    /// their packed size before.
    void leafSizes(std::uint64_t length)
    {
        constexpr std::uint64_t leafAtLeast = 64; // its mask
        constexpr std::uint32_t none = 0xffffffffu;
        const std::uint64_t end = at_ + length, leaves = number<std::uint32_t>();
        const auto part = [&](std::uint64_t each, bool mayBeLeftOut) {
            const auto packed = number<std::uint32_t>();
            if (packed == none && mayBeLeftOut)
                return;
            skip(packed > 0 ? packed : leaves * each);
        };
        if (leaves > file_.size / leafAtLeast)
            throw damaged("a note in it claims " + std::to_string(leaves) + " leaves");
        part(1, false);
        part(8, true);
        if (at_ > end)
            throw damaged("a note in it is larger than its place");
        at_ = end;
        skip(0);
    }
    /// False where its kind is not known.
    bool grid(const std::string& type, std::uint64_t from, std::uint64_t blocks, bool instance)
    {
        static constexpr std::pair<const char*, std::uint64_t> values[] = {
            {"float", 4}, {"double", 8}, {"int32", 4}, {"int64", 8}, {"vec3s", 12}, {"vec3d", 24}, {"vec3i", 12}};
        std::string rest = type;
        half_ = false;
        if (const std::string tail = "_HalfFloat"; rest.ends_with(tail)) {
            half_ = true;
            rest.resize(rest.size() - tail.size());
        }
        bytes_ = 0;
        for (const auto& [known, bytes] : values)
            if (rest == std::string("Tree_") + known + "_5_4_3")
                bytes_ = bytes;
        if (bytes_ == 0 || instance)
            return false;
        packed_ = !half_ ? bytes_ : bytes_ == 12 || bytes_ == 24 ? 6 : 2;
        at_ = from;
        compression_ = number<std::uint32_t>();
        if (compression_ > 7)
            throw damaged("its packing is not known");
        notes();
        const std::string map = text();
        static constexpr std::pair<const char*, std::uint64_t> maps[] = {{"AffineMap", 128},
                                                                         {"UnitaryMap", 128},
                                                                         {"ScaleMap", 120},
                                                                         {"UniformScaleMap", 120},
                                                                         {"TranslationMap", 24},
                                                                         {"ScaleTranslateMap", 144},
                                                                         {"UniformScaleTranslateMap", 144}};
        std::uint64_t mapBytes = 0;
        for (const auto& [known, bytes] : maps)
            if (map == known)
                mapBytes = bytes;
        if (mapBytes == 0) {
            if (map == "NonlinearFrustumMap")
                return false;
            throw damaged("its place is given in an unknown way");
        }
        skip(mapBytes);
        if (number<std::int32_t>() != 1)
            throw damaged("its tree is not one");
        skip(bytes_); // background
        const auto tiles = number<std::uint32_t>(), children = number<std::uint32_t>();
        skip(static_cast<std::uint64_t>(tiles) * (12 + bytes_ + 1));
        std::uint64_t leaves = 0;
        for (std::uint32_t i = 0; i < children; ++i) {
            skip(12);
            internal(32768, leaves);
        }
        if (at_ > blocks)
            throw damaged("its tree is larger than its place");
        at_ = blocks;
        for (std::uint64_t i = 0; i < leaves; ++i) {
            const std::uint64_t mask = at_;
            skip(64);
            values_(512, mask);
        }
        return true;
    }
    std::uint64_t ones(std::uint64_t from, std::uint64_t bits) const
    {
        std::uint64_t n = 0;
        for (std::uint64_t i = 0; i < bits / 64; ++i) {
            std::uint64_t word;
            std::memcpy(&word, file_.data + from + i * 8, 8);
            n += static_cast<std::uint64_t>(std::popcount(word));
        }
        return n;
    }
    void internal(std::uint64_t places, std::uint64_t& leaves)
    {
        const std::uint64_t childMask = at_;
        skip(places / 8);
        const std::uint64_t valueMask = at_;
        skip(places / 8);
        values_(places, valueMask);
        const std::uint64_t children = ones(childMask, places);
        for (std::uint64_t i = 0; i < children; ++i) {
            if (places == 32768) {
                internal(4096, leaves);
            } else {
                skip(64);
                ++leaves;
            }
        }
    }
    /// A node's values: how they are packed, up to two inactive ones, which of these is where, then the rest.
    void values_(std::uint64_t places, std::uint64_t mask)
    {
        std::uint64_t count = places;
        const auto how = number<std::int8_t>();
        if (how < 0 || how > 6)
            throw damaged("values in it are packed in an unknown way");
        skip((how == 2 || how == 4 || how == 5 ? bytes_ : 0) + (how == 5 ? bytes_ : 0));
        if (how == 3 || how == 4 || how == 5)
            skip(places / 8);
        if ((compression_ & activeMask) && how != 6)
            count = ones(mask, places);
        if (half_ && count == 0)
            return;
        const std::uint64_t whole = count * packed_;
        if (!(compression_ & (blosc | zip))) {
            skip(whole);
            return;
        }
        const auto stored = number<std::int64_t>();
        if (stored <= 0) {
            if (0u - static_cast<std::uint64_t>(stored) != whole) // the least number has no opposite
                throw damaged("plain values in it have a wrong size");
            skip(whole);
            return;
        }
        const std::uint64_t from = at_;
        skip(static_cast<std::uint64_t>(stored));
        if (compression_ & blosc) {
            // The packed block says itself how long it is and will be.
            std::uint32_t unpacked = 0, packed = 0;
            if (stored < 16)
                throw damaged("packed values in it are too short");
            std::memcpy(&unpacked, file_.data + from + 4, 4);
            std::memcpy(&packed, file_.data + from + 12, 4);
            if (unpacked != whole || packed != static_cast<std::uint64_t>(stored))
                throw damaged("packed values in it have a wrong size");
        }
    }

    const Mapped& file_;
    std::string name_;
    std::uint64_t at_ = 0;
    std::uint64_t bytes_ = 4, packed_ = 4; ///< of a value in memory, and as it is packed
    std::uint32_t compression_ = 0;
    bool half_ = false;
};
} // namespace

std::set<std::string> checkVdb(const std::filesystem::path& file)
{
    const Mapped mapped(file);
    return Walk(mapped, file.string()).all();
}
} // namespace hygros::media
