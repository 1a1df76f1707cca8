#pragma once
/// What the thread sanitizer cannot see: oneTBB and Qt are not built with it, so that handing work over by them looks
/// like nothing to it. These tell it; in other builds they are nothing.
#if defined(__SANITIZE_THREAD__)
extern "C" {
void __tsan_acquire(void* address);
void __tsan_release(void* address);
}
#endif

namespace hygros {

/// What one thread did before release() is seen by another after acquire() of the same object.
class HandOver {
public:
#if defined(__SANITIZE_THREAD__)
    void release() const { __tsan_release(&mark_); }
    void acquire() const { __tsan_acquire(&mark_); }

private:
    mutable char mark_ = 0;
#else
    void release() const {}
    void acquire() const {}
#endif
};
} // namespace hygros
