#pragma once
/// Heat haze: what lies behind hot air (media::HotAir) is seen displaced by how that bends the light. The deflection of
/// a ray is the gradient of the refractive index across it, summed along it (M. Born & E. Wolf, Principles of Optics,
/// 3.2); a surface beyond is displaced by it times the share of the way that lies behind. The picture is drawn anew
/// from where its pixels' rays end, flames with it: rays are not bent before they are traced.
#include "render/layers.h"
#include "shot/shot.h"

namespace hygros::render {

class Shimmer {
public:
    Shimmer() = default;
    Shimmer(const shot::Shot& shot, int width, int height);
    bool isEmpty() const { return shift_.empty(); }
    /// Where a pixel's light comes from, beside itself [pixels]; 0 beyond the picture.
    Vec2 at(int x, int y) const;
    /// Displaces a picture of the same size, `channels` numbers a pixel.
    void bend(std::vector<float>& picture, int channels) const;
    /// All of them but the depth.
    void bend(Layers& layers) const;

private:
    int width_ = 0, height_ = 0, cellsX_ = 0, cellsY_ = 0, x0_ = 0, y0_ = 0;
    static constexpr int cell = 2; ///< pixels along a place where it is known; between them it is blended
    std::vector<Vec2> shift_;      ///< of the part of the picture that may be displaced
};
} // namespace hygros::render
