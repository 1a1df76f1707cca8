#pragma once
/// The controls of a long task: progress 0…1, a message, and a cancel that is honoured at safe points.
///
///     JobControl control;
///     std::jthread worker([&] { try { importSet(path, control); } catch (const Cancelled&) {} });
///     …  control.cancel();
#include <atomic>
#include <mutex>
#include <stdexcept>
#include <string>

namespace hygros {

/// Thrown by JobControl::check() once cancel() was called; whoever started the job catches it.
struct Cancelled : std::runtime_error {
    Cancelled() : std::runtime_error("cancelled") {}
};

class JobControl {
public:
    void cancel() { cancelled_.store(true, std::memory_order_relaxed); }
    bool cancelled() const { return cancelled_.load(std::memory_order_relaxed); }
    /// A safe point: throws Cancelled if the job is to end.
    void check() const
    {
        if (cancelled())
            throw Cancelled();
    }
    void report(float progress, const std::string& message)
    {
        progress_.store(progress, std::memory_order_relaxed);
        const std::lock_guard lock(mutex_);
        message_ = message;
    }
    float progress() const { return progress_.load(std::memory_order_relaxed); }
    std::string message() const
    {
        const std::lock_guard lock(mutex_);
        return message_;
    }

private:
    std::atomic<bool> cancelled_{false};
    std::atomic<float> progress_{0.f};
    mutable std::mutex mutex_;
    std::string message_;
};
} // namespace hygros
