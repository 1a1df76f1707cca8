#pragma once
/// PathRatios along one row of a picture: what is looked up a million times a picture costs a few multiplications here.
#include "render/path_ratios.h"

namespace hygros::render {

class RatioRow {
public:
    /// `y` of `height` rows, `width` columns. It copies what it needs.
    RatioRow(const PathRatios& ratios, int width, int height, int y);

    bool known() const { return known_; }
    /// At a column's middle: 1 while nothing is known. Of air that ends at `t` [m] or goes on to the sky.
    PathRatios::Packed air(int column, float t) const;
    /// Of what a surface sends back.
    PathRatios::Packed set(int column, float t, const Vec3& normal) const;
    /// Of what a mirroring surface sends back, both ways.
    PathRatios::Packed mirror(int column, float t) const;

private:
    /// Four nodes around a place and their shares.
    struct Around {
        int node[4];
        float share[4];
    };
    [[gnu::always_inline]] static inline Around around(int across, float u, float depth);
    [[gnu::always_inline]] static inline void blend(const float* face, const Around& at, float share,
                                                    PathRatios::Packed& out);
    float along(int column) const { return (static_cast<float>(column) + 0.5f) * overWidth_; }

    bool known_;
    float overWidth_;
    using Grid = PathRatios::Grid;
    static constexpr int values = PathRatios::values, faceOfSet = PathRatios::depths * PathRatios::setAcross * values;
    alignas(32) float air_[PathRatios::depths * PathRatios::airAcross * values];
    alignas(32) float set_[(PathRatios::mirrors + 1) * faceOfSet];
};
} // namespace hygros::render
