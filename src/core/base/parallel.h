#pragma once
/// Data-parallel loops over all cores (oneTBB underneath).
#include "base/sanitize.h"

#include <cstddef>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace hygros {

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
