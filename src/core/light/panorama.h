#pragma once
/// A sky from a picture: a whole sphere of radiance, equal angles in both directions (width twice the height), the
/// horizon in the middle row, straight up at the top.
#include "base/vec.h"

#include <filesystem>
#include <memory>
#include <vector>

namespace hygros::light {

class Panorama {
public:
    /// Throws an input Error when the picture cannot be read or is not about twice as wide as high. Values that are
    /// negative or not finite count as 0.
    static std::shared_ptr<const Panorama> load(const std::filesystem::path& file);
    Panorama(int width, int height, std::vector<float> rgb);

    /// Radiance from a direction; the picture's middle column lies toward −Z.
    Vec3 radiance(const Vec3& direction) const;
    /// A direction drawn in proportion to brightness, u and v in [0, 1); its density per steradian in `pdf`.
    Vec3 sample(float u, float v, float& pdf) const;
    float pdf(const Vec3& direction) const;
    /// ∫ L dω [W/m²]: what all of it sends to a small ball, by channel.
    Vec3 total() const { return total_; }
    /// Pixels that were not finite or negative.
    int refused() const { return refused_; }
    std::size_t bytes() const { return rgb_.size() * sizeof(float) + (rows_.size() + cells_.size()) * sizeof(double); }

    /// The brightest small spot taken out, as a sun: direction and irradiance on a facing surface; what is left where
    /// it stood is like its surroundings. Nothing is taken where nothing stands out tenfold.
    struct Sun {
        bool found = false;
        Vec3 direction{0, 1, 0}, irradiance{0.f};
    };
    std::shared_ptr<const Panorama> withoutSun(Sun& sun) const;

private:
    std::size_t at(int x, int y) const
    {
        return (static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) + static_cast<std::size_t>(x)) * 3;
    }
    /// Between pixel middles, straight.
    Vec3 between(float x, float y) const;
    Vec3 directionAt(float x, float y) const;
    static float solidAngle(int y, int width, int height);
    void measure();
    int width_, height_, refused_ = 0;
    int fineWidth_ = 0, fineHeight_ = 0; ///< of the running sums: few pixels are cut finer, as they are seen straight
                                         ///< between their middles
    std::vector<float> rgb_;
    Vec3 total_{0.f};
    double weight_ = 0.0;              ///< Σ brightness · solid angle
    std::vector<double> rows_, cells_; ///< running sums, for sampling
};
} // namespace hygros::light
