#pragma once
/// Lattices that the tests of gas step on.
#include "sim/smoke/lattice.h"

#include <functional>

namespace hygros::test {

inline sim::Lattice box(int x, int y, int z, float h = 1.f)
{
    sim::Lattice l;
    l.n = {x, y, z};
    l.h = h;
    return l;
}
inline void eachCell(const sim::Lattice& l, const std::function<void(int, int, int)>& body)
{
    for (int z = 0; z < l.n[2]; ++z)
        for (int y = 0; y < l.n[1]; ++y)
            for (int x = 0; x < l.n[0]; ++x)
                body(x, y, z);
}
} // namespace hygros::test
