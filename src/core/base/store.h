#pragma once
/// What took time to make, kept in memory by what it was made from.
///
///     auto bricks = store.get(GridKey{versionOf(file), name}, [&] { return std::make_shared<const Grid>(load(file,
///     name)); });
///
/// A key is any copyable type with ==; keys of different types never meet, so that whoever keeps something declares a
/// key of his own beside its use. Keys say what content something came from (numbers, names, a FileVersion, the
/// Identity of something else that is kept) and own nothing of size. The store is bounded by bytes: what was asked for
/// longest ago goes first. What goes while somebody still holds it is found again as long as it lives. Threads that ask
/// for one key at a time wait for one maker; when that one fails or is cancelled, the next makes it.
#include "base/job.h"

#include <condition_variable>
#include <cstdint>
#include <filesystem>
#include <functional>
#include <list>
#include <memory>
#include <mutex>
#include <thread>
#include <typeindex>
#include <unordered_map>
#include <vector>

namespace hygros {

/// Which object, without owning it: equal for pointers to the same one, never for one that came later in its place.
class Identity {
public:
    Identity() = default;
    template <class T> Identity(const std::shared_ptr<T>& object) : object_(object) {}
    bool operator==(const Identity& o) const
    {
        return !object_.owner_before(o.object_) && !o.object_.owner_before(object_);
    }

private:
    std::weak_ptr<const void> object_;
};

/// A file as it was at one time; of a file that is not there only the path. Another content has another version.
struct FileVersion {
    std::filesystem::path path;
    std::uintmax_t size = 0;
    std::int64_t modified = 0, changed = 0; ///< nanoseconds of the file system's clock: of its content, of its entry
    std::uint64_t node = 0;
    bool operator==(const FileVersion&) const = default;
};
FileVersion versionOf(const std::filesystem::path& file);

class Store {
public:
    static constexpr std::size_t usualLimit = std::size_t{2} << 30;
    Store() = default;
    explicit Store(std::size_t limit) : limit_(limit) {}
    Store(const Store&) = delete;
    Store& operator=(const Store&) = delete;

    /// What `make` made of `key`: a shared_ptr, never null. Throws what `make` throws, and Cancelled while waiting for
    /// another maker. Its size is what its bytes() says, else that of its type.
    template <class Key, class Make> auto get(const Key& key, const Make& make, const JobControl* job = nullptr)
    {
        using Value = const typename std::invoke_result_t<const Make&>::element_type;
        const Slot::Same same = [&key](const Slot& s) { return static_cast<const Held<Key, Value>&>(s).key == key; };
        const auto fresh = [&key] { return std::make_unique<Held<Key, Value>>(key); };
        const auto [slot, kept] = claim(typeid(Held<Key, Value>), same, fresh, job);
        if (kept)
            return std::static_pointer_cast<Value>(kept);
        std::shared_ptr<Value> made;
        try {
            made = make();
        } catch (...) {
            settle(slot, nullptr, 0);
            throw;
        }
        settle(slot, made, bytesOf(*made));
        return made;
    }
    /// The same if it is at hand; null otherwise. Makes nothing and does not wait, so a window may ask.
    template <class Value, class Key> std::shared_ptr<const Value> atHand(const Key& key)
    {
        const Slot::Same same = [&key](const Slot& s) {
            return static_cast<const Held<Key, const Value>&>(s).key == key;
        };
        return std::static_pointer_cast<const Value>(find(typeid(Held<Key, const Value>), same));
    }

    std::size_t bytes() const;
    std::size_t count() const; ///< of what is kept
    std::size_t limit() const;
    void setLimit(std::size_t bytes);
    /// Lets go of everything that is kept.
    void clear();

private:
    struct Slot {
        using Same = std::function<bool(const Slot&)>;
        virtual ~Slot() = default;
        std::shared_ptr<const void> value; ///< null while it is made, and after it went
        std::weak_ptr<const void> seen;    ///< what went and may still live elsewhere
        std::size_t bytes = 0;
        std::thread::id maker; ///< none: nobody is making it
        std::list<Slot*>::iterator age;
    };
    template <class Key, class Value> struct Held final : Slot {
        explicit Held(const Key& k) : key(k) {}
        Key key;
    };
    template <class Value> static std::size_t bytesOf(const Value& value)
    {
        if constexpr (requires { value.bytes(); })
            return value.bytes();
        else if constexpr (requires { value.capacity(); })
            return value.capacity() * sizeof(*value.data()) + sizeof value;
        else
            return sizeof(Value);
    }
    std::pair<Slot*, std::shared_ptr<const void>> claim(std::type_index type, const Slot::Same& same,
                                                        const std::function<std::unique_ptr<Slot>()>& fresh,
                                                        const JobControl* job);
    void settle(Slot* slot, std::shared_ptr<const void> value, std::size_t bytes);
    std::shared_ptr<const void> find(std::type_index type, const Slot::Same& same);
    /// With the lock held; what went is handed over, to be destroyed without it.
    void trim(std::vector<std::shared_ptr<const void>>& gone);

    mutable std::mutex mutex_;
    std::condition_variable made_;
    std::unordered_map<std::type_index, std::vector<std::unique_ptr<Slot>>> slots_;
    std::list<Slot*> ages_; ///< of those with a value, newest first
    std::size_t limit_ = usualLimit, bytes_ = 0;
};
} // namespace hygros
