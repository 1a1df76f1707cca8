/// Cloud decks as bodies.
#include "media/deck.h"
#include "render/air_kernel.h"
#include "render/bodies.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
using media::CloudDeck;

float extinctionOf(const CloudDeck& deck, const Vec3& p)
{
    return deck.sigmaT * media::deckDensity8(deck, f8(p.x), f8(p.y), f8(p.z), f8(0.f))[0];
}

/// What is denser than leaves a ray so many tentative collisions on its way counts as that dense: a cloud in which one
/// sees less far than a few thousandths of the way is a wall either way, and the gaps beside it are passed in time.
constexpr float mostTentative = 4096.f;

/// Calls each(place, density) for tentative collisions of a ray inside a deck, until it returns false; density is that
/// of the densest there.
template <class Each>
void overDeck(const CloudDeck& deck, const Vec3& o, const Vec3& d, float length, Random& random, const Each& each)
{
    // What nothing ends goes on to where decks end.
    float t0 = 0.f, t1 = length == media::outsideDistance ? media::deckDistance : length;
    if (std::abs(d.y) > 1e-6f) {
        const float u = (deck.base - o.y) / d.y, v = (deck.base + deck.thickness - o.y) / d.y;
        t0 = std::max(t0, std::min(u, v));
        t1 = std::min(t1, std::max(u, v));
    } else if (o.y < deck.base || o.y > deck.base + deck.thickness) {
        return;
    }
    if (!(deck.sigmaT > 0.f))
        return;
    const float most = std::min(deck.sigmaT, mostTentative / std::max(t1 - t0, 1e-6f));
    // Eight places cost what one does.
    for (float t = t0;;) {
        F8 at = f8(t0);
        int count = 0;
        for (; count < lanes; ++count) {
            t -= std::log(1.f - random.next()) / most;
            if (!(t < t1))
                break;
            at[count] = t;
        }
        if (count == 0)
            return;
        const F8 density = min8(media::deckDensity8(deck, o.x + d.x * at, o.y + d.y * at, o.z + d.z * at, f8(0.f)) *
                                    (deck.sigmaT / most),
                                f8(1.f));
        for (int i = 0; i < count; ++i)
            if (!each(at[i], density[i]))
                return;
        if (count < lanes)
            return;
    }
}

class DeckBody final : public Body {
public:
    explicit DeckBody(const std::vector<CloudDeck>& decks) : decks_(decks) {}

    std::size_t count() const override { return decks_.size(); }
    const std::string& id(std::size_t body) const override { return decks_[body].id; }
    bool isLevel() const override { return true; }
    std::size_t keptCount() const override { return decks_.size(); }

    void shade(F8 x, F8 y, F8 z, Kept& kept, Shade& out) const override
    {
        for (const CloudDeck& deck : decks_) {
            // Below it all of it, inside in part.
            const F8 share = clamp8((deck.base + deck.thickness - y) * (1.f / deck.thickness), 0.f, 1.f);
            out.cover += share * deck.meanColumn;
            if (deck.shadow && (kept || any(share > 0.f)))
                out.level += kept ? kept.value([&] { return deck.shadow->whole8(x, y, z); }) * deck.shadow->above8(y)
                                  : deck.shadow->depth8(x, y, z);
        }
    }

    void layers(std::vector<Layer>& out) const override
    {
        for (const CloudDeck& deck : decks_)
            out.push_back({deck.phase, luminance(deck.albedo), deck.meanColumn, deck.evenColumn, deck.coverage});
    }

    void sources(std::vector<std::shared_ptr<const void>>& out) const override
    {
        for (const CloudDeck& deck : decks_)
            out.insert(out.end(), {deck.shadow, deck.diffusion});
    }

    /// All together, at the distance where most of it is.
    int slabs() const override { return 1; }

    void look(const AirModel& air, const media::Ray8& ray, F8 end, F8 jitter, bool, Seen8* out) const override
    {
        media::DeckLight8 look;
        media::lightDecks8(decks_, air.deckSun(), ray, end, jitter, shot::Shot::farDistance, look);
        for (int c = 0; c < 3; ++c) {
            out->sun[c] = look.sun[c];
            out->sky[c] = look.sky[c];
            out->through[c] = look.through;
        }
        out->distance = look.distance;
    }

    media::Optics opticsAt(std::size_t body, const Vec3& point) const override
    {
        return {Vec3(extinctionOf(decks_[body], point)), decks_[body].albedo};
    }
    const media::Phase& phase(std::size_t body) const override { return decks_[body].phase; }

    bool collide(const Flight& f, Collision& nearest) const override
    {
        bool found = false;
        for (const CloudDeck& deck : decks_)
            overDeck(deck, f.origin, f.direction, nearest.t, f.random, [&](float t, float density) {
                if (f.random.next() >= density)
                    return true;
                nearest = {t, static_cast<std::size_t>(&deck - decks_.data()), Vec3(1.f)};
                found = true;
                return false;
            });
        return found;
    }

    void through(const Vec3& o, const Vec3& d, float length, bool, Random& random, Vec3& left) const override
    {
        for (const CloudDeck& deck : decks_)
            overDeck(deck, o, d, length, random, [&](float, float density) {
                left *= 1.f - density;
                return media::survives(left, random);
            });
    }

private:
    const std::vector<CloudDeck>& decks_;
};
} // namespace

std::shared_ptr<Body> deckBody(const shot::Shot& shot)
{
    return shot.decks.empty() ? nullptr : std::make_shared<DeckBody>(shot.decks);
}
} // namespace hygros::render
