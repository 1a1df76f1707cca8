#include "render/flights.h"

#include "media/tracking.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Medium;
using media::Shape;

namespace {
constexpr int pieces = 16;
/// Chances that a piece of a flight has at most, and how many of them are told apart up to its end: what is denser
/// counts as that dense, or the gaps of what lets nothing through would be walked through by less than a number can
/// count.
constexpr float mostTentative = 16384.f, finest = 2e6f;
const Vec3 cleanColour(media::cleanSpectrum[0], media::cleanSpectrum[1], media::cleanSpectrum[2]);

/// Upper bound of one medium's extinction on a piece of a ray that lies in it.
float majorant(const Medium& m, float noise, const Vec3& o, const Vec3& d, float t0, float t1)
{
    if (m.shape == Shape::Thinning)
        return m.sigmaT * noise *
               std::exp(std::min(media::deepest, (m.base - std::min(o.y + d.y * t0, o.y + d.y * t1)) / m.thinning)) *
               1.0001f;
    return m.sigmaT * noise;
}

/// "Clear around" holds for rays that begin at its centre.
bool isClear(const Medium& m, const Vec3& origin, float t)
{
    return m.clear > 0.f && t < m.clear && (origin - m.clearCentre).length2() < 1e-8f;
}

} // namespace

Flights::Flights(const shot::Shot& shot)
    : shot_(shot), media_(shot.media.size()), scatterers_(media_), bodies_(bodiesOf(shot))
{
    for (const Medium& m : shot.media) {
        clean_ = clean_ || m.clean;
        plain_.push_back((m.shape == Shape::Uniform || m.shape == Shape::Thinning) && !media::isPatterned(m) &&
                         m.clear <= 0.f);
    }
    coloured_ = clean_;
    for (const auto& body : bodies_) {
        scatterers_ += body->count();
        coloured_ = coloured_ || body->isColoured();
    }
}

const Body& Flights::bodyOf(std::size_t& k) const
{
    k -= media_;
    auto body = bodies_.begin();
    while (k >= (*body)->count())
        k -= (*body++)->count();
    return **body;
}

/// Calls each(t0, t1, bound) for pieces of growing length; stops when it returns false.
template <class Each>
void Flights::overPieces(const Vec3& o, const Vec3& d, float length, bool clean, bool plain, const Each& each) const
{
    if (media_ == 0)
        return;
    struct Part {
        float noise, first, last;
        /// What is clear around the eye holds no chances: where it is dense nearby they would be without number.
        float clearFrom = 0.f, clearTo = 0.f;
        bool isIn(float from, float to) const
        {
            return last > from && first < to && !(from >= clearFrom && to <= clearTo);
        }
    };
    constexpr std::size_t few = 24;
    Part smallParts[few];
    std::vector<Part> manyParts(media_ > few ? media_ : 0);
    Part* parts = manyParts.empty() ? smallParts : manyParts.data();
    // Every medium's own stretch of the ray, once.
    float last = 0.f, longest = 1e30f;
    for (std::size_t k = 0; k < media_; ++k) {
        const Medium& m = shot_.media[k];
        if (plain_[k] && !plain) {
            parts[k] = {1.f, 0.f, 0.f};
            continue;
        }
        // Down into what thins upward: a piece's bound is that of its end, and must not be too far above its beginning.
        if (m.shape == Shape::Thinning && d.y < 0.f)
            longest = std::min(longest, -2.f * m.thinning / d.y);
        F8 a = f8(0.f), b = f8(length);
        if (m.shape != Shape::Thinning)
            media::clip8(m, media::ray8(o, d), a, b);
        if (m.clean && !clean)
            b = a;
        const bool isMet = b[0] > a[0];
        parts[k] = {media::patternBound(m) * (m.clean ? media::cleanSpectrum[2] : 1.f), isMet ? a[0] : 0.f,
                    isMet ? b[0] : 0.f};
        if (m.clear > 0.f) {
            const Vec3 to = m.clearCentre - o;
            const float middle = to.dot(d), half2 = m.clear * m.clear - (to - d * middle).length2();
            if (half2 > 0.f) {
                parts[k].clearFrom = std::max(0.f, middle - std::sqrt(half2));
                parts[k].clearTo = middle + std::sqrt(half2);
            }
        }
        last = std::max(last, parts[k].last);
    }
    longest = std::max(longest, 1e-3f * length);
    float t0 = 0.f;
    const float a = 4.f, ratio = std::pow(1.f + length / a, 1.f / pieces);
    float width = (ratio - 1.f) * a;
    // (A ray that comes down so far is over where matter is e³⁰ times as dense, long before it has many pieces.)
    for (int i = 0; t0 < last; ++i) {
        const float whole = i + 1 >= pieces ? length - t0 : width, end = std::min(t0 + std::min(whole, longest), last);
        width *= ratio;
        // Cut where a medium begins or ends: its bound would else hold for all of a piece that it has a corner of.
        while (t0 < end) {
            float t1 = end, total = 0.f;
            for (std::size_t k = 0; k < media_; ++k) {
                const Part& p = parts[k];
                t1 = p.first > t0 ? std::min(t1, p.first) : p.last > t0 ? std::min(t1, p.last) : t1;
                t1 = p.clearFrom > t0 ? std::min(t1, p.clearFrom) : p.clearTo > t0 ? std::min(t1, p.clearTo) : t1;
            }
            for (std::size_t k = 0; k < media_; ++k)
                if (parts[k].isIn(t0, t1))
                    total += majorant(shot_.media[k], parts[k].noise, o, d, t0, t1);
            if (total > 0.f && !each(t0, t1, std::min({total, mostTentative / (t1 - t0), finest / t1})))
                return;
            t0 = t1;
        }
    }
}

Vec3 Flights::extinction(std::size_t k, const Vec3& p, bool clean) const
{
    if (k < media_) {
        const Medium& m = shot_.media[k];
        if (!m.clean)
            return Vec3(media::extinction(m, p));
        return clean ? cleanColour * media::extinction(m, p) : Vec3(0.f);
    }
    return bodyOf(k).opticsAt(k, p).extinction;
}

media::Optics Flights::opticsAt(std::size_t k, const Vec3& p, bool clean) const
{
    if (k < media_)
        return {extinction(k, p, clean), shot_.media[k].albedo};
    return bodyOf(k).opticsAt(k, p);
}

const media::Phase& Flights::phase(std::size_t k) const
{
    return k < media_ ? shot_.media[k].phase : bodyOf(k).phase(k);
}

float Flights::reach(const light::Lamp& lamp, std::size_t k) const
{
    return k < media_ ? lamp.reachOfMedium(k) : lamp.reachOfBody(k - media_);
}

float Flights::reach(const shot::Shot::SkyReach& r, std::size_t k) const
{
    const auto of = [](const std::vector<float>& list, std::size_t i) { return i < list.size() ? list[i] : 1.f; };
    return k < media_ ? of(r.media, k) : of(r.bodies, k - media_);
}

bool Flights::collide(const Vec3& o, const Vec3& d, float limit, bool clean, Vec3& weight, Random& random,
                      Collision& out) const
{
    thread_local std::vector<media::NullCollision> nulls;
    nulls.clear();
    bool found = false;
    Vec3 chosen(1.f);
    const bool coloured = clean && clean_;
    overPieces(o, d, limit, clean, true, [&](float t0, float t1, float bound) {
        for (float at = t0;;) {
            at -= std::log(1.f - random.next()) / bound;
            if (at >= t1)
                return true;
            const Vec3 p = o + d * at;
            float pick = random.next();
            if (!coloured) {
                pick *= bound;
                for (std::size_t k = 0; k < media_; ++k) {
                    if (isClear(shot_.media[k], o, at))
                        continue;
                    pick -= extinction(k, p, false).x;
                    if (pick < 0.f) {
                        out = {at, k};
                        return !(found = true);
                    }
                }
                continue;
            }
            constexpr std::size_t few = 32;
            Vec3 small[few];
            std::vector<Vec3> many(media_ > few ? media_ : 0);
            Vec3* sigma = many.empty() ? small : many.data();
            Vec3 total(0.f), factor;
            for (std::size_t k = 0; k < media_; ++k)
                total += sigma[k] = isClear(shot_.media[k], o, at) ? Vec3(0.f) : extinction(k, p, true);
            // What is denser than the bound counts as dense as it, in the channels' own proportions.
            if (const float most = maxComponent(total); most > bound) {
                for (std::size_t k = 0; k < media_; ++k)
                    sigma[k] *= bound / most;
                total *= bound / most;
            }
            if (!media::collides(weight, total, bound, pick, factor)) {
                nulls.push_back({at, factor});
                continue;
            }
            // Which of them: in proportion to what the flight carries of each.
            const float whole = weight.dot(total);
            float u = random.next() * whole;
            std::size_t k = 0;
            while (k + 1 < media_ && (u -= weight.dot(sigma[k])) >= 0.f)
                ++k;
            const float share = weight.dot(sigma[k]);
            if (!(share > 0.f) || !(maxComponent(total) > 0.f))
                chosen = Vec3(0.f);
            else
                for (int c = 0; c < 3; ++c)
                    chosen[c] = total[c] > 0.f ? factor[c] * (sigma[k][c] / total[c]) * (whole / share) : 0.f;
            out = {at, k};
            return !(found = true);
        }
    });
    // Bodies compete: the nearest collision of all is the one that happens.
    Body::Collision nearest{found ? out.t : limit, 0, chosen};
    std::size_t number = media_;
    for (const auto& body : bodies_) {
        if (body->collide({o, d, weight, random, nulls}, nearest)) {
            out = {nearest.t, number + nearest.body};
            found = true;
        }
        number += body->count();
    }
    for (const media::NullCollision& n : nulls)
        if (n.t < nearest.t)
            weight *= n.factor;
    if (found)
        weight *= nearest.factor;
    return found;
}

Vec3 Flights::through(const Vec3& o, const Vec3& d, float length, bool clean, bool shades, Random& random) const
{
    Vec3 t(1.f);
    for (const auto& body : bodies_)
        body->through(o, d, length, shades, random, t);
    if (t.x + t.y + t.z <= 0.f)
        return t;
    // Ratios of a tight bound would make a coin of what is known.
    for (std::size_t k = 0; k < media_; ++k) {
        const Medium& m = shot_.media[k];
        if (!plain_[k] || (m.clean && !clean))
            continue;
        const float depth = media::opticalDepth(m, o, d, 0.f, length);
        const Vec3 by = m.clean ? cleanColour * depth : Vec3(depth);
        t *= Vec3(std::exp(-by.x), std::exp(-by.y), std::exp(-by.z));
    }
    overPieces(o, d, length, clean, false, [&](float t0, float t1, float bound) {
        for (float at = t0;;) {
            at -= std::log(1.f - random.next()) / bound;
            if (at >= t1)
                return t.x + t.y + t.z > 0.f;
            Vec3 sigma(0.f);
            for (std::size_t k = 0; k < media_; ++k)
                if (!plain_[k] && !isClear(shot_.media[k], o, at))
                    sigma += extinction(k, o + d * at, clean);
            for (int c = 0; c < 3; ++c)
                t[c] *= std::max(0.f, 1.f - sigma[c] / bound);
            if (!media::survives(t, random))
                return false;
        }
    });
    return t;
}

Vec3 Flights::glowThrough(const Vec3& o, const Vec3& d, float limit, bool clean, bool asLight, Random& random) const
{
    if (coloured_)
        return glow(o, d, limit, asLight, random, &clean);
    Vec3 whole(1.f);
    Collision c;
    return glow(o, d, collide(o, d, limit, clean, whole, random, c) ? c.t : limit, asLight, random, nullptr);
}

Vec3 Flights::glow(const Vec3& o, const Vec3& d, float length, bool asLight, Random& random,
                   const bool* dimmedWithClean) const
{
    // What is given off up to the collision: the flight's own chance of getting there is what is left of it.
    Body::Dimming dimming;
    if (dimmedWithClean)
        dimming = [&](float t) { return through(o, d, t, *dimmedWithClean, false, random); };
    Vec3 total(0.f);
    for (const auto& body : bodies_)
        total += body->glow(o, d, length, asLight, random, dimming);
    return total;
}

float Flights::roughDensity(const Vec3& o, const Vec3& d, float t, bool clean) const
{
    float depth = 0.f, sigma = 0.f;
    for (std::size_t k = 0; k < scatterers(); ++k)
        sigma += extinction(k, o + d * t, clean).y;
    for (const Medium& m : shot_.media)
        if (clean || !m.clean)
            depth += media::opticalDepth(m, o, d, 0.f, t);
    return sigma * std::exp(-std::min(80.f, depth));
}
} // namespace hygros::render
