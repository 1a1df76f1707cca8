#pragma once
/// Gobos: what a lamp throws its light through, a picture or a pattern.
#include "base/simd.h"
#include "base/vec.h"

#include <array>
#include <cstdint>
#include <filesystem>
#include <memory>
#include <string>
#include <vector>

namespace hygros::light {

/// A square of light that comes through, by channel; (−1, −1)…(1, 1) of the beam, x to the right and y up.
class Gobo {
public:
    enum class Pattern { Window, Blinds, Foliage, Breakup, Slit, Stars, Drawn };
    struct Settings {
        Pattern pattern = Pattern::Window;
        int count = 3;     ///< panes across, slats, or how fine the pattern is; 1…64
        float open = 0.6f; ///< share of it that lets light through, 0…1
        std::uint32_t seed = 1;
        std::vector<std::vector<Vec2>> outlines; ///< of Drawn: closed, light inside by even-odd
        float softness = 0.02f;                  ///< width of its edges as a share of the beam, 0…1
        bool operator==(const Settings&) const = default;
    };
    explicit Gobo(const Settings& settings);
    /// A picture, fitted into the beam; softened by `softness`. Throws an input Error when it cannot be read; pixels
    /// that are not finite or negative let nothing through.
    static std::shared_ptr<const Gobo> load(const std::filesystem::path& file, float softness);

    /// Turned by an angle and moved across the beam; a pattern repeats, a picture does not.
    struct Placing {
        float turn = 0.f;  ///< [rad]
        Vec2 shift{0, 0};  ///< in half beam widths
        float scale = 1.f; ///< larger patterns above 1
        bool operator==(const Placing&) const = default;
    };
    std::shared_ptr<const Gobo> placed(const Placing& placing) const;

    Vec3 at(float x, float y) const;
    void at8(F8 x, F8 y, F8 out[3]) const;
    /// Mean of what comes through a round beam.
    Vec3 mean() const;
    /// Pixels of it that were not finite or negative.
    int refused() const { return refused_; }
    /// Of this one alone; those that it was placed from share it.
    std::size_t bytes() const
    {
        return sizeof *this +
               (planes_ && planes_.use_count() == 1 ? planes_->size() * (size + 1) * (size + 1) * sizeof(float) : 0);
    }

private:
    Gobo() = default;
    static constexpr int size = 512;
    void soften(float softness);
    using Plane = std::vector<float>; ///< [row from below][column], one more of each, that repeats the first or is dark
    std::shared_ptr<const std::vector<Plane>> planes_;
    bool repeats_ = true;
    float cos_ = 1.f, sin_ = 0.f, perScale_ = 1.f;
    Vec2 shift_{0, 0};
    int refused_ = 0;
};

/// The outlines of "x y, x y, x y; x y, …": each from at least three points. Throws std::invalid_argument with a
/// sentence.
std::vector<std::vector<Vec2>> outlinesOf(const std::string& text);
std::string textOf(const std::vector<std::vector<Vec2>>& outlines);
} // namespace hygros::light
