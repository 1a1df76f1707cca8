#pragma once
/// Data-parallel loops over all cores (oneTBB underneath).
#include "base/sanitize.h"

#include <cstddef>
#include <immintrin.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace hygros {

/// Numbers too small to be kept whole (under 1.2e-38) are nothing while this lives. Libraries leave the cores of a
/// program set now so, now otherwise; a light that has died away to such a number would take random numbers on one and
/// none on another, and the same picture come out with other noise.
class TinyIsNothing {
public:
    TinyIsNothing() : before_(_mm_getcsr())
    {
        if ((before_ & bits) != bits)
            _mm_setcsr(before_ | bits);
    }
    ~TinyIsNothing()
    {
        if ((before_ & bits) != bits)
            _mm_setcsr((_mm_getcsr() & ~bits) | (before_ & bits));
    }
    TinyIsNothing(const TinyIsNothing&) = delete;
    TinyIsNothing& operator=(const TinyIsNothing&) = delete;

private:
    static constexpr unsigned bits = 0x8040; ///< results flushed to zero; operands taken as zero
    unsigned before_;
};

/// Calls body(begin, end) for disjoint ranges that cover [0, count), at least `grain` long where possible.
template <class Body> void parallelRanges(std::size_t count, std::size_t grain, const Body& body)
{
    if (count == 0)
        return;
    const HandOver begin, end;
    begin.release();
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, grain),
                      [&](const tbb::blocked_range<std::size_t>& range) {
                          begin.acquire();
                          const TinyIsNothing tiny;
                          body(range.begin(), range.end());
                          end.release();
                      });
    end.acquire();
}

/// Calls body(index) for every index in [0, count).
template <class Body> void parallelFor(std::size_t count, const Body& body)
{
    parallelRanges(count, 1, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i)
            body(i);
    });
}
} // namespace hygros
