#include "scene/time.h"

#include "base/units.h"

#include <cmath>
#include <numeric>
#include <stdexcept>

namespace hygros::scene {

std::optional<Rate> rateOf(const std::string& text)
{
    const auto number = [](const std::string& part) { return parseQuantity(part, Quantity::Plain); };
    Rate rate;
    if (const auto slash = text.find('/'); slash != std::string::npos) {
        const auto over = number(text.substr(0, slash)), under = number(text.substr(slash + 1));
        if (!over || !under || *over != std::floor(*over) || *under != std::floor(*under) || *over < 1.0 ||
            *under < 1.0 || *over > 1e9 || *under > 1e6)
            return std::nullopt;
        rate = {static_cast<std::int64_t>(*over), static_cast<std::int64_t>(*under)};
    } else {
        const auto value = number(text);
        if (!value || !(*value >= 1.0) || !(*value <= 1000.0))
            return std::nullopt;
        // Written to two or three places: what television made of a whole rate.
        const auto whole = static_cast<std::int64_t>(std::ceil(*value));
        if (*value != std::floor(*value) && whole % 6 == 0 &&
            std::abs(*value - static_cast<double>(whole) / 1.001) < 6e-3)
            return Rate{whole * 1000, 1001};
        rate = {std::llround(*value * 1000.0), 1000};
    }
    const std::int64_t common = std::gcd(rate.frames, rate.seconds);
    rate = {rate.frames / common, rate.seconds / common};
    if (rate.perSecond() < 1.0 || rate.perSecond() > 1000.0)
        return std::nullopt;
    return rate;
}

std::string shown(const Rate& rate) { return formatNumber(rate.perSecond(), 5); }

void TimeSettings::check() const
{
    const auto refuse = [](const std::string& why) { throw std::invalid_argument(why); };
    if (std::abs(first) > farthest || std::abs(last) > farthest)
        refuse("frames must lie within " + std::to_string(-farthest) + " to " + std::to_string(farthest));
    if (last < first)
        refuse("the last frame (" + std::to_string(last) + ") must not come before the first (" +
               std::to_string(first) + ")");
    if (rate.seconds < 1 || rate.perSecond() < 1.0 || rate.perSecond() > 1000.0)
        refuse("frames a second must lie within 1 to 1000");
    if (!(shutterAngle >= 0.0 && shutterAngle <= 360.0))
        refuse("the shutter's angle must lie within 0 to 360 degrees");
    if (!(std::abs(shutterPhase) <= 360.0))
        refuse("the shutter's phase must lie within -360 to 360 degrees");
    if (!(preRoll >= 0.0 && preRoll <= 1e5))
        refuse("the pre-roll must lie within 0 to 100 000 s");
    if (!(loop >= 0.0 && loop <= 1e5))
        refuse("the loop must lie within 0 to 100 000 s");
}
} // namespace hygros::scene
