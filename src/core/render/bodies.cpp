#include "render/bodies.h"

#include <cassert>

namespace hygros::render {
BodyList bodiesOf(const shot::Shot& shot)
{
    BodyList out;
    int slabs = 0;
    for (const auto make : {volumeBody, deckBody})
        if (auto body = make(shot)) {
            slabs += body->slabs();
            out.push_back(std::move(body));
        }
    assert(slabs <= mostSlabs);
    return out;
}
} // namespace hygros::render
