#include "scene/track.h"

#include "base/random.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>
#include <utility>

namespace hygros::scene {
namespace {
constexpr double same = 1e-3; ///< keys nearer than this are one [frames]
using Three = std::array<double, 3>;

int componentsOf(const Parameter& p)
{
    return p.type == ValueType::Number || p.type == ValueType::Whole   ? 1
           : p.type == ValueType::Colour || p.type == ValueType::Point ? 3
                                                                       : 0;
}
Three componentsOf(const Value& v)
{
    if (const auto* d = std::get_if<double>(&v))
        return {*d, 0.0, 0.0};
    if (const auto* i = std::get_if<std::int64_t>(&v))
        return {static_cast<double>(*i), 0.0, 0.0};
    if (const auto* three = std::get_if<Vec3>(&v))
        return {double(three->x), double(three->y), double(three->z)};
    return {0.0, 0.0, 0.0};
}
Value valueFrom(const Parameter& p, const Three& c)
{
    if (componentsOf(p) == 3)
        return Vec3(static_cast<float>(c[0]), static_cast<float>(c[1]), static_cast<float>(c[2]));
    return c[0];
}

double secant(const Track& t, std::size_t k, int c)
{
    const auto at = static_cast<std::size_t>(c);
    return (componentsOf(t.keys[k + 1].value)[at] - componentsOf(t.keys[k].value)[at]) /
           (t.keys[k + 1].frame - t.keys[k].frame);
}
/// Slope of the parabola through a key and its neighbours; 0 where they turn there.
double middleSlope(const Track& t, std::size_t k, int c)
{
    const std::size_t last = t.keys.size() - 1;
    if (k == 0)
        return secant(t, 0, c);
    if (k == last)
        return secant(t, last - 1, c);
    const double before = secant(t, k - 1, c), after = secant(t, k, c);
    if (before * after <= 0.0)
        return 0.0;
    const double left = t.keys[k].frame - t.keys[k - 1].frame, right = t.keys[k + 1].frame - t.keys[k].frame;
    return (right * before + left * after) / (left + right);
}
/// What brings the slopes at both ends of a stretch into the circle within which a cubic does not turn.
double shrink(const Track& t, std::size_t k, int c)
{
    const double d = secant(t, k, c);
    if (d == 0.0)
        return 0.0;
    const double a = middleSlope(t, k, c) / d, b = middleSlope(t, k + 1, c) / d, r = std::hypot(a, b);
    return r > 3.0 ? 3.0 / r : 1.0;
}
double monotoneSlope(const Track& t, std::size_t k, int c)
{
    double least = 1.0;
    if (k > 0)
        least = std::min(least, shrink(t, k - 1, c));
    if (k + 1 < t.keys.size())
        least = std::min(least, shrink(t, k, c));
    return least * middleSlope(t, k, c);
}
double outSlope(const Track& t, std::size_t k, int c)
{
    const Key& key = t.keys[k];
    if (k + 1 < t.keys.size()) {
        if (key.way == Way::Linear)
            return secant(t, k, c);
        if (key.way == Way::Hold)
            return 0.0;
    }
    if (key.out)
        return double((*key.out)[c]);
    return t.keys.size() < 2 ? 0.0 : monotoneSlope(t, k, c);
}
double inSlope(const Track& t, std::size_t k, int c)
{
    if (k > 0) {
        if (t.keys[k - 1].way == Way::Linear)
            return secant(t, k - 1, c);
        if (t.keys[k - 1].way == Way::Hold)
            return 0.0;
    }
    if (t.keys[k].in)
        return double((*t.keys[k].in)[c]);
    return t.keys.size() < 2 ? 0.0 : monotoneSlope(t, k, c);
}

/// Where in the keys' own stretch a frame lies, after repeating or swinging.
double folded(const Track& t, double frame)
{
    const double first = t.keys.front().frame, length = t.keys.back().frame - first;
    const Beyond how = frame < first ? t.before : t.after;
    if (length <= 0.0 || (frame >= first && frame <= first + length) || how == Beyond::Hold || how == Beyond::GoOn)
        return frame;
    const double turns = std::floor((frame - first) / length), in = frame - first - turns * length;
    const bool back = how == Beyond::Swing && std::fmod(std::abs(turns), 2.0) == 1.0;
    return first + (back ? length - in : in);
}

CurvePoints blended(const CurvePoints& a, const CurvePoints& b, float w)
{
    if (a.size() == b.size()) {
        CurvePoints out(a.size());
        for (std::size_t i = 0; i < a.size(); ++i)
            out[i] = a[i] * (1.f - w) + b[i] * w;
        return out;
    }
    // Both as lines, at the places of either.
    const auto at = [](const CurvePoints& c, float x) {
        if (x <= c.front().x)
            return c.front().y;
        for (std::size_t i = 1; i < c.size(); ++i)
            if (x <= c[i].x)
                return c[i - 1].y + (c[i].y - c[i - 1].y) * (x - c[i - 1].x) / (c[i].x - c[i - 1].x);
        return c.back().y;
    };
    std::vector<float> places;
    for (const CurvePoints* c : {&a, &b})
        for (const Vec2& p : *c)
            places.push_back(p.x);
    std::sort(places.begin(), places.end());
    places.erase(std::unique(places.begin(), places.end()), places.end());
    CurvePoints out;
    for (const float x : places)
        out.emplace_back(x, at(a, x) * (1.f - w) + at(b, x) * w);
    return out;
}
ColourStops blended(const ColourStops& a, const ColourStops& b, float w)
{
    if (a.size() != b.size())
        return a; // which stop becomes which is not known
    ColourStops out(a.size());
    for (std::size_t i = 0; i < a.size(); ++i)
        out[i] = {a[i].at * (1.f - w) + b[i].at * w, a[i].colour * (1.f - w) + b[i].colour * w,
                  a[i].opacity * (1.f - w) + b[i].opacity * w};
    return out;
}

double unit(std::uint32_t a, std::uint32_t b) { return double(hash32(a, b)) / 4294967296.0; }
} // namespace

Key keyAt(double frame, Value value, Way way)
{
    Key key;
    key.frame = frame;
    key.value = std::move(value);
    key.way = way;
    return key;
}

std::shared_ptr<const Track> Motion::of(const std::string& parameter) const
{
    const auto found = all().find(parameter);
    return found == all().end() ? nullptr : found->second;
}

void Motion::put(const std::string& parameter, Track track)
{
    own()[parameter] = std::make_shared<const Track>(std::move(track));
}

void Motion::remove(const std::string& parameter)
{
    if (!of(parameter))
        return;
    own().erase(parameter);
    if (tracks_->empty())
        tracks_.reset();
}

const Motion::Tracks& Motion::all() const
{
    static const Tracks none;
    return tracks_ ? *tracks_ : none;
}

Motion::Tracks& Motion::own()
{
    auto copy = std::make_shared<Tracks>(all());
    Tracks& changed = *copy;
    tracks_ = std::move(copy);
    return changed;
}

const Key* Track::at(double frame) const
{
    const auto found = std::lower_bound(keys.begin(), keys.end(), frame - same,
                                        [](const Key& k, double f) { return k.frame < f; });
    return found != keys.end() && found->frame <= frame + same ? &*found : nullptr;
}

void Track::put(Key key)
{
    const auto found = std::lower_bound(keys.begin(), keys.end(), key.frame - same,
                                        [](const Key& k, double f) { return k.frame < f; });
    if (found != keys.end() && found->frame <= key.frame + same)
        *found = std::move(key);
    else
        keys.insert(found, std::move(key));
}

bool Track::removeAt(double frame)
{
    return std::erase_if(keys, [&](const Key& k) { return std::abs(k.frame - frame) <= same; }) > 0;
}

std::optional<double> Track::next(double frame, bool forward) const
{
    std::optional<double> best;
    for (const Key& k : keys)
        if (forward ? k.frame > frame + same && !best : k.frame < frame - same)
            best = k.frame;
    return best;
}

double stirAt(const Stir& s, double frame, const TimeSettings& time, int component)
{
    const double t = time.looped(time.seconds(frame));
    switch (s.kind) {
    case Stir::Kind::Sway: {
        // Sines about the rate, no two of a common period; faster ones by roughness. Their sum stays within 1.
        struct Part {
            double times, much;
        };
        const Part parts[] = {{0.47, 1.0},           {0.73, 1.0},           {1.0, 1.0},
                              {1.37, 0.8},           {2.11, 0.6 * s.rough}, {3.17, 0.45 * s.rough},
                              {4.73, 0.3 * s.rough}, {7.09, 0.2 * s.rough}};
        double sum = 0.0, whole = 0.0;
        for (std::uint32_t i = 0; i < std::size(parts); ++i) {
            const auto which = static_cast<std::uint32_t>(component) * 16u + i;
            const double f = time.fitted(s.rate * parts[i].times *
                                         (0.92 + 0.16 * unit(std::uint32_t(s.seed), which + 977u)));
            sum += parts[i].much * std::sin(2.0 * M_PI * (f * t + unit(std::uint32_t(s.seed), which)));
            whole += parts[i].much;
        }
        return sum / whole;
    }
    case Stir::Kind::Swing: return std::sin(2.0 * M_PI * (time.fitted(s.rate) * t + s.phase / 360.0));
    case Stir::Kind::Pulse: {
        const double turn = time.fitted(s.rate) * t + s.phase / 360.0, in = turn - std::floor(turn);
        if (s.width <= 0.0 || in >= s.width)
            return 0.0;
        const double bump = std::sin(M_PI * in / s.width);
        return bump * bump;
    }
    case Stir::Kind::Ramp: {
        const double u = s.to > s.from ? std::clamp((frame - s.from) / (s.to - s.from), 0.0, 1.0)
                                       : (frame >= s.from ? 1.0 : 0.0);
        return u * u * (3.0 - 2.0 * u);
    }
    case Stir::Kind::Follows: break;
    }
    return 0.0;
}

bool mayBeKeyed(const Parameter& p) { return p.keyable && p.type != ValueType::Text && p.type != ValueType::File; }
bool mayBeStirred(const Parameter& p) { return mayBeKeyed(p) && componentsOf(p) > 0 && p.type != ValueType::Whole; }
bool isBlended(const Parameter& p)
{
    return p.type == ValueType::Number || p.type == ValueType::Colour || p.type == ValueType::Point ||
           p.type == ValueType::Curve || p.type == ValueType::Stops;
}

Value keyedValue(const Parameter& p, const Track& t, double frame, const Value& otherwise)
{
    if (t.keys.empty())
        return otherwise;
    const double at = folded(t, frame);
    const Key &first = t.keys.front(), &last = t.keys.back();
    const int n = componentsOf(p);
    const bool numbers = n > 0 && isBlended(p);
    const auto goneOn = [&](std::size_t k, bool after) -> Value {
        Three c = componentsOf(t.keys[k].value);
        for (int i = 0; i < n; ++i)
            c[static_cast<std::size_t>(i)] += (at - t.keys[k].frame) * (after ? inSlope(t, k, i) : outSlope(t, k, i));
        return valueFrom(p, c);
    };
    if (at <= first.frame)
        return numbers && t.before == Beyond::GoOn ? goneOn(0, false) : first.value;
    if (at >= last.frame)
        return numbers && t.after == Beyond::GoOn ? goneOn(t.keys.size() - 1, true) : last.value;
    const auto after = std::upper_bound(t.keys.begin(), t.keys.end(), at,
                                        [](double f, const Key& k) { return f < k.frame; });
    const auto k = static_cast<std::size_t>(after - t.keys.begin()) - 1;
    const Key &a = t.keys[k], &b = t.keys[k + 1];
    if (a.way == Way::Hold || !isBlended(p))
        return a.value;
    const double h = b.frame - a.frame, u = (at - a.frame) / h;
    if (!numbers) {
        const auto w = static_cast<float>(a.way == Way::Linear ? u : u * u * (3.0 - 2.0 * u));
        if (p.type == ValueType::Curve)
            return blended(std::get<CurvePoints>(a.value), std::get<CurvePoints>(b.value), w);
        return blended(std::get<ColourStops>(a.value), std::get<ColourStops>(b.value), w);
    }
    const Three from = componentsOf(a.value), to = componentsOf(b.value);
    Three c{};
    for (int i = 0; i < n; ++i) {
        const auto s = static_cast<std::size_t>(i);
        if (a.way == Way::Linear) {
            c[s] = from[s] + u * (to[s] - from[s]);
            continue;
        }
        const double m0 = outSlope(t, k, i) * h, m1 = inSlope(t, k + 1, i) * h, d = to[s] - from[s];
        // Hermite's cubic, from its beginning.
        c[s] = from[s] + u * (m0 + u * ((3.0 * d - 2.0 * m0 - m1) + u * (m0 + m1 - 2.0 * d)));
    }
    return valueFrom(p, c);
}

std::array<Vec3, 2> slopesAt(const Parameter& p, const Track& t, std::size_t key)
{
    std::array<Vec3, 2> out{Vec3(0.f), Vec3(0.f)};
    for (int i = 0; i < componentsOf(p); ++i) {
        out[0][i] = static_cast<float>(inSlope(t, key, i));
        out[1][i] = static_cast<float>(outSlope(t, key, i));
    }
    return out;
}

Value limited(const Parameter& p, const Value& value)
{
    const auto within = [&](double v) { return std::clamp(v, p.hardMin, p.hardMax); };
    if (const auto* d = std::get_if<double>(&value))
        return p.type == ValueType::Whole ? Value(static_cast<std::int64_t>(std::llround(within(*d))))
                                          : Value(within(*d));
    if (const auto* three = std::get_if<Vec3>(&value)) {
        Vec3 out;
        for (int i = 0; i < 3; ++i)
            out[i] = static_cast<float>(within(double((*three)[i])));
        return out;
    }
    return value;
}

void checkTrack(const Parameter& p, const Track& track)
{
    const auto refuse = [&](const std::string& why) { throw std::invalid_argument(p.label + " " + why); };
    if (!mayBeKeyed(p))
        refuse("cannot change over time");
    if (track.keys.size() > Track::mostKeys)
        refuse("has " + std::to_string(track.keys.size()) + " keys; " + std::to_string(Track::mostKeys) +
               " is the most");
    const auto finite = [](const Vec3& v) { return std::isfinite(v.x) && std::isfinite(v.y) && std::isfinite(v.z); };
    for (std::size_t i = 0; i < track.keys.size(); ++i) {
        const Key& k = track.keys[i];
        if (!std::isfinite(k.frame) || std::abs(k.frame) > TimeSettings::farthest)
            refuse("has a key at no frame that there is");
        if (i && k.frame <= track.keys[i - 1].frame + same)
            refuse("has two keys at frame " + formatNumber(k.frame, 6));
        p.checked(k.value);
        if ((k.in && !finite(*k.in)) || (k.out && !finite(*k.out)))
            refuse("has a key with a slope that is no number");
    }
    if (!track.stirs.empty() && !mayBeStirred(p))
        refuse("has no numbers that could be stirred");
    for (const Stir& s : track.stirs) {
        if (!finite(s.amount))
            refuse("has a stir whose amount is no number");
        for (const double v : {s.rate, s.phase, s.rough, s.width, s.from, s.to})
            if (!std::isfinite(v) || std::abs(v) > TimeSettings::farthest)
                refuse("has a stir with a number out of range");
        if (s.rate < 0.0 || s.rough < 0.0 || s.rough > 1.0 || s.width < 0.0 || s.width > 1.0)
            refuse("has a stir with a rate under 0, or roughness or width outside 0 to 1");
        if (s.kind == Stir::Kind::Follows && s.source.find('.') == std::string::npos)
            refuse("follows '" + s.source + "', which names no parameter (element.parameter)");
    }
}
} // namespace hygros::scene
