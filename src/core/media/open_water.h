#pragma once
/// Water with waves on it, to the horizon or within walls, as rays meet it.
///
/// Waves shorter than a pixel sees are left out of its shape and kept as a spread of facets (E. Bruneton, F. Neyret &
/// N. Holzschuch, Real-time realistic ocean lighting using seamless transitions from geometry to BRDF, Comput. Graph.
/// Forum 29, 2010): far water neither sparkles nor goes flat. Facets by a normal law of their slopes (C. Cox & W. Munk,
/// JOSA 44, 1954).
#include "geometry/basin.h"
#include "geometry/ray_scene.h"
#include "geometry/shores.h"
#include "geometry/water_surface.h"
#include "media/caustics.h"
#include "media/swell_field.h"
#include "media/wake.h"
#include "media/water_body.h"

#include <algorithm>
#include <optional>

namespace hygros::media {

class OpenWater final : public geometry::WaterSurface {
public:
    struct Settings {
        float level = 0.f;
        Vec3 eye{0.f};            ///< from where its detail is told
        float pixelAngle = 1e-3f; ///< of the eye [rad]
        WaterBody body;
        float foam = 0.f;                               ///< share of the surface that is white by the wind
        float foamHalves = 0.f;                         ///< in which half of it is gone [s]; 0: at once
        Vec2 crests{0.f};                               ///< how crests that break run [m/s]
        float foamOfWakes = 0.f, foamAtShores = 0.f;    ///< strength, 0: none
        float waveHeight = 0.f;                         ///< significant [m]
        std::shared_ptr<const geometry::Shores> shores; ///< null: none near
        std::shared_ptr<const geometry::Basin> basin;   ///< it stands within; null: to the horizon
        std::shared_ptr<const geometry::Rings> rings;   ///< of rain on it; null: none
        Vec3 toSun{0.f};                                ///< whose light it gathers; zero: none
        std::uint32_t seed = 1;
        bool operator==(const Settings&) const = default;
    };
    OpenWater(std::shared_ptr<const SwellField> field, const Settings& settings,
              std::vector<std::shared_ptr<const WakePatch>> wakes = {});
    bool trace(const Vec3& origin, const Vec3& direction, float near, float far, geometry::Hit& hit) const override;
    bool traceUp(const Vec3& origin, const Vec3& direction, float near, float far, geometry::Hit& hit) const override;
    bool isUnder(const Vec3& place) const override;
    bool holds(float x, float z) const override { return holds(Vec2(x, z)); }
    const Vec3& absorption() const override { return settings_.body.absorption; }
    const Vec3& back() const override { return settings_.body.back; }
    float gathered(const Vec3& place) const override { return caustics_ ? caustics_->at(place) : 1.f; }
    Vec3 deep() const override { return deep_; }
    Vec3 over(const Vec3& ground, float metres, float down) const override
    {
        return settings_.body.over(ground, metres, down);
    }
    float sight() const override { return settings_.body.sight(); }
    float level() const override { return settings_.level; }
    float highest() const override { return settings_.level + top_; }
    std::size_t bytes() const override;
    const SwellField& field() const { return *field_; }
    /// Waves of the wind and of what moves at a place of the still plane.
    SwellSample at(const Vec2& place, float width) const;
    /// Whether there is water at a place.
    bool holds(const Vec2& place) const { return !settings_.basin || settings_.basin->holds(place.x, place.y); }
    /// Foam at a place of the still plane: how much of it is covered, and how old that is, both 0…1.
    struct Foam {
        float cover = 0.f, age = 0.f;
    };
    /// By waves of `width` and longer; what is shorter counts by chance, another for each seed.
    Foam foamAt(const Vec2& from, float width, std::uint32_t seed) const;
    /// How white it is where it is drawn together so much, 0…1.
    float whiteAt(float jacobian) const
    {
        constexpr float rim = 0.08f;
        return std::clamp((whiteUnder_ + rim - jacobian) / (2.f * rim), 0.f, 1.f);
    }
    /// Its height over a place, waves shorter than `width` left out [m].
    float heightAt(float x, float z, float width) const;

private:
    struct Met {
        float t;
        Vec2 from; ///< of the still plane
        SwellSample there;
    };
    /// `side`: 1 as seen from above, −1 from under it.
    void fill(geometry::Hit& hit, const Met& met, const Vec3& origin, const Vec3& direction, float side) const;
    std::optional<Met> meets(const Vec3& origin, const Vec3& direction, float near, float far) const;
    /// What a pixel there sees at once [m].
    float widthAt(const Vec3& place) const;
    /// What stands over a place of the world; `from`: where it may have come from, and did.
    SwellSample standing(float x, float z, float width, Vec2& from) const;
    SwellShape shapeAt(float x, float z, float scale, std::size_t tiles) const;
    std::shared_ptr<const SwellField> field_;
    std::vector<std::shared_ptr<const WakePatch>> wakes_;
    float top_ = 0.f, bottom_ = 0.f, wakesTop_ = 0.f; ///< over the level
    Settings settings_;
    Vec3 deep_;
    void settleFoam();
    float drawnAt(const Vec2& from, float width, std::uint32_t seed) const;
    Vec2 crestOf(const Vec2& from, int age, std::uint32_t seed, float& left) const;
    const geometry::Material* whiteOf(const Vec2& from, float width, std::uint32_t seed) const;
    Vec2 trailWay_{1.f, 0.f};
    float foamWidth_ = 0.f;    ///< waves that are shorter make no foam [m]
    float whiteUnder_ = -1e9f; ///< jacobian at which half of the surface is white
    static constexpr int steps = 24;
    std::array<geometry::Material, steps> smooth_; ///< by how much its facets spread
    geometry::Material white_, film_;              ///< foam, thick and thin
    std::unique_ptr<const Caustics> caustics_;     ///< null: no sun, or flat
};
/// How much of foam there is at shores by the waves that come to them, 0…1.
float shoreFoamOf(float waveHeight);
} // namespace hygros::media
