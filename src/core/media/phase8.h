#pragma once
/// Phase functions (media/phase.h) for eight cosines at once.
#include "base/simd.h"
#include "media/phase.h"

namespace hygros::media {

inline F8 henyeyGreenstein8(F8 cosine, float g)
{
    const F8 d = 1.f + g * g - 2.f * g * cosine;
    return (1.f - g * g) / (4.f * pi * d * sqrt8(d));
}
inline F8 phase8(const Phase& p, F8 cosine)
{
    const F8 narrow = henyeyGreenstein8(cosine, p.g);
    if (p.wide == 0.f)
        return narrow;
    return narrow * (1.f - p.wide) + henyeyGreenstein8(cosine, p.wideG) * (1.f + p.wideA * cosine * cosine) *
                                         (p.wide / (1.f + p.wideA * (1.f + 2.f * p.wideG * p.wideG) / 3.f));
}
} // namespace hygros::media
