#pragma once
/// Bodies: what is neither even air nor a surface. One class a kind stands for all bodies of that kind in a shot, and
/// says to both integrators all they ask: what its bodies take from light in the air beside them, what rays gather in
/// them for the live picture, and how the reference's flights meet them. Bodies are numbered kind by kind, as
/// shot::Bodies has them.
#include "base/random.h"
#include "media/tracking.h"
#include "shot/shot.h"

#include <functional>
#include <memory>
#include <vector>

namespace hygros::render {
class AirModel;

/// What eight rays gathered from one slab, kept as planes: light by channel from the sun, from the sky, from lamps and
/// its own; what comes through; the distance where most of it is; and what comes through by channel, of which the one
/// before is the mean.
inline constexpr int bodyPlanes = 14, bodyThrough = 9, bodyAt = 10, bodyColour = 11;
/// Of all kinds together.
inline constexpr int mostSlabs = 8;

class Body {
public:
    virtual ~Body() = default;
    /// How many there are in the shot, one at least.
    virtual std::size_t count() const = 0;
    virtual const std::string& id(std::size_t body) const = 0;

    /// Looked up at eight points once for many edits, where there is room: what densities do not change.
    class Kept {
    public:
        static constexpr float unkept = 1e30f;
        /// `room`: [values][8], `unkept` where nothing was looked up yet; null: no room.
        explicit Kept(float* room) : next_(room) {}
        explicit operator bool() const { return next_ != nullptr; }
        template <class LookUp> F8 value(const LookUp& lookUp)
        {
            if (!next_)
                return lookUp();
            float* own = next_;
            next_ += lanes;
            if (own[0] == unkept)
                store8(own, lookUp());
            return load8(own);
        }

    private:
        float* next_;
    };
    /// How many values shade() keeps at a point.
    virtual std::size_t keptCount() const = 0;
    /// What is shaded at points in the air.
    struct Shade {
        F8 level{};  ///< optical depth toward the sun of what lies in layers above all air,
        F8 beside{}; ///< and of what stands in it
        F8 aside{};  ///< of the latter, what is turned from its way or swallowed
        F8 within{}; ///< of what is all around the point, what it swallows on a way through
        F8 cover{};  ///< mean optical depth of the layers above
    };
    virtual void shade(F8 x, F8 y, F8 z, Kept& kept, Shade& out) const = 0;
    /// Its bodies are layers, none stands in the air.
    virtual bool isLevel() const { return false; }
    /// A layer for the light of level air (AirModel): phase function and albedo, its mean optical depth, that of an
    /// even sheet that lets as much through, and the share of the sky it covers.
    struct Layer {
        media::Phase phase;
        float albedo, meanColumn, evenColumn, coverage;
    };
    virtual void layers(std::vector<Layer>&) const {}
    /// Optical depth of ways of `length` metres in the air. `from` (or null): a lamp's light on its way, that is
    /// dimmed only by what turns or swallows it, and by nothing that the lamp itself stands for.
    virtual F8 depthOn(const media::Ray8& way, F8 length, const light::Lamp* from) const
    {
        (void)way, (void)length, (void)from;
        return f8(0.f);
    }

    /// Ready for the live picture, seen from `eye`; `shot` is what it was made of. `before` (or null) is the one of the
    /// shot before this one and lends what is still right.
    virtual void begin(const std::shared_ptr<const shot::Shot>& shot, const Vec3& eye, const Body* before)
    {
        (void)shot, (void)eye, (void)before;
    }
    /// With every march: finds out more about its light, until that would change little.
    virtual void feed(const AirModel&) {}
    /// What it looks like depends on the air around it.
    virtual bool dependsOnAir() const { return false; }
    /// It gives off light, or scatters that of lamps.
    virtual bool hasOwnLight() const { return false; }
    /// It lets through other shares of other channels.
    virtual bool isColoured() const { return false; }
    /// What shade() keeps values of: kept values stand while these are the same.
    virtual void sources(std::vector<std::shared_ptr<const void>>&) const {}
    /// How many slabs by depth a ray is cut into, so that air and surfaces between its parts are in the right order;
    /// the same for all rays, and from look to look.
    virtual int slabs() const = 0;
    struct Seen8 {
        F8 sun[3]{}, sky[3]{}, own[3]{}, through[3] = {f8(1.f), f8(1.f), f8(1.f)}, distance{};
    };
    /// What rays gather before `end`, by slab, near to far; `out` comes as it is made, and slabs that nothing is in
    /// stay so. `jitter`: 0…1 by ray; `first`: of few looks, coarser.
    virtual void look(const AirModel& air, const media::Ray8& ray, F8 end, F8 jitter, bool first, Seen8* out) const = 0;

    /// For the reference: by body and point.
    virtual media::Optics opticsAt(std::size_t body, const Vec3& point) const = 0;
    virtual const media::Phase& phase(std::size_t body) const = 0;
    struct Flight {
        const Vec3 &origin, &direction;
        const Vec3& weight; ///< what the flight carries
        Random& random;
        std::vector<media::NullCollision>& nulls; ///< collisions that did not happen, with what they change of it
    };
    struct Collision {
        float t = 0.f; ///< in: the nearest so far; out: a nearer one [m]
        std::size_t body = 0;
        Vec3 factor{1.f}; ///< on what the flight carries
    };
    /// False where there is none before `nearest.t`, which is then as it was.
    virtual bool collide(const Flight& flight, Collision& nearest) const = 0;
    /// Multiplies `left` with what comes through by channel; `shades`: as a shadow on something else.
    virtual void through(const Vec3& origin, const Vec3& direction, float length, bool shades, Random& random,
                         Vec3& left) const = 0;
    /// Light given off on a way, where `dimming` (or none) says what comes from a distance; `asLight`: what lights
    /// other things.
    using Dimming = std::function<Vec3(float)>;
    virtual Vec3 glow(const Vec3& origin, const Vec3& direction, float length, bool asLight, Random& random,
                      const Dimming& dimming) const
    {
        (void)origin, (void)direction, (void)length, (void)asLight, (void)random, (void)dimming;
        return Vec3(0.f);
    }
};
using BodyList = std::vector<std::shared_ptr<Body>>;

/// One for every kind that the shot has bodies of. They keep a reference to it.
BodyList bodiesOf(const shot::Shot& shot);
std::shared_ptr<Body> volumeBody(const shot::Shot& shot); ///< null: there are none
std::shared_ptr<Body> deckBody(const shot::Shot& shot);
} // namespace hygros::render
