#include "base/store.h"

#include <algorithm>
#include <chrono>
#include <sys/stat.h>

namespace hygros {

FileVersion versionOf(const std::filesystem::path& file)
{
    FileVersion v;
    v.path = file;
    struct stat s;
    if (::stat(file.c_str(), &s) != 0)
        return v;
    const auto nanoseconds = [](const timespec& t) { return std::int64_t{t.tv_sec} * 1'000'000'000 + t.tv_nsec; };
    v.size = static_cast<std::uintmax_t>(s.st_size);
    v.modified = nanoseconds(s.st_mtim);
    v.changed = nanoseconds(s.st_ctim);
    v.node = s.st_ino;
    return v;
}

std::pair<Store::Slot*, std::shared_ptr<const void>> Store::claim(std::type_index type, const Slot::Same& same,
                                                                  const std::function<std::unique_ptr<Slot>()>& fresh,
                                                                  const JobControl* job)
{
    std::unique_lock lock(mutex_);
    for (;;) {
        auto& list = slots_[type];
        const auto found = std::find_if(list.begin(), list.end(), [&](const auto& s) { return same(*s); });
        if (found == list.end()) {
            list.push_back(fresh());
            list.back()->maker = std::this_thread::get_id();
            return {list.back().get(), nullptr};
        }
        Slot* slot = found->get();
        if (slot->value) {
            ages_.splice(ages_.begin(), ages_, slot->age);
            return {slot, slot->value};
        }
        if (slot->maker == std::thread::id()) {
            if (auto living = slot->seen.lock()) {
                slot->value = living;
                ages_.push_front(slot);
                slot->age = ages_.begin();
                bytes_ += slot->bytes;
                return {slot, living};
            }
            slot->maker = std::this_thread::get_id();
            return {slot, nullptr};
        }
        if (slot->maker == std::this_thread::get_id())
            throw std::logic_error("something is made from itself");
        made_.wait_for(lock, std::chrono::milliseconds(50)); // also to see whether the job was cancelled
        if (job)
            job->check();
    }
}

void Store::settle(Slot* slot, std::shared_ptr<const void> value, std::size_t bytes)
{
    std::vector<std::shared_ptr<const void>> gone;
    {
        const std::lock_guard lock(mutex_);
        slot->maker = {};
        if (value) {
            constexpr std::size_t own = 256; // a slot itself is not free
            slot->bytes = bytes + own;
            slot->seen = value;
            slot->value = std::move(value);
            ages_.push_front(slot);
            slot->age = ages_.begin();
            bytes_ += slot->bytes;
        }
        trim(gone);
    }
    made_.notify_all();
}

void Store::trim(std::vector<std::shared_ptr<const void>>& gone)
{
    // The newest stays, however large: somebody is about to use it.
    while (bytes_ > limit_ && ages_.size() > 1) {
        Slot* oldest = ages_.back();
        ages_.pop_back();
        bytes_ -= oldest->bytes;
        gone.push_back(std::move(oldest->value));
        oldest->value = nullptr;
    }
    for (auto& [type, list] : slots_)
        std::erase_if(list,
                      [](const auto& s) { return !s->value && s->maker == std::thread::id() && s->seen.expired(); });
}

std::shared_ptr<const void> Store::find(std::type_index type, const Slot::Same& same)
{
    const std::lock_guard lock(mutex_);
    const auto list = slots_.find(type);
    if (list == slots_.end())
        return nullptr;
    for (const auto& s : list->second)
        if (same(*s))
            return s->value ? s->value : s->seen.lock();
    return nullptr;
}

std::size_t Store::bytes() const
{
    const std::lock_guard lock(mutex_);
    return bytes_;
}

std::size_t Store::count() const
{
    const std::lock_guard lock(mutex_);
    return ages_.size();
}

std::size_t Store::limit() const
{
    const std::lock_guard lock(mutex_);
    return limit_;
}

void Store::setLimit(std::size_t bytes)
{
    std::vector<std::shared_ptr<const void>> gone;
    const std::lock_guard lock(mutex_);
    limit_ = bytes;
    trim(gone);
}

void Store::clear()
{
    std::vector<std::shared_ptr<const void>> gone;
    const std::lock_guard lock(mutex_);
    for (Slot* s : ages_) {
        gone.push_back(std::move(s->value));
        s->value = nullptr;
    }
    ages_.clear();
    bytes_ = 0;
}
} // namespace hygros
