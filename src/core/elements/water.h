#pragma once
/// What Open water and a Pool share: waves, and what is in the water.
#include "elements/kinds.h"
#include "media/open_water.h"

namespace hygros::elements {

struct WaveSettings {
    double speed = 8.0, heading = 90.0;
    std::string wind;
    double fetch = 1e5, narrow = 1.0, opposing = 0.0, strength = 1.0, choppy = 1.0, foldLimit = 0.05, shortest = 0.02,
           pace = 1.0;
    bool holdsFolds = true;
    std::string type = "coast", detail = "fine";
    double foam = 1.0, foamLife = 2.5, wakes = 1.0, spray = 1.0;
    std::int64_t seed = 1;
};
/// The waves of that wind over water so deep [m]; `level` of it.
media::Swell swellOf(const scene::Project& project, const WaveSettings& s, double level, double depth);
/// Puts water with such waves into the shot and tells of them.
void putWater(FreezeContext& c, const WaveSettings& s, const media::Swell& swell, double level,
              std::shared_ptr<const geometry::Basin> basin = nullptr);
std::vector<std::string> waterTypeIds();
/// The waves of water as its field has them.
std::shared_ptr<const media::SwellModes> modesOf(const WaveSettings& s, const media::Swell& swell, Store& store,
                                                 JobControl& job);

/// A water of a project as what floats on it knows it. `waves` is the element's.
struct WaterLevel {
    double level = 0.0;
    media::Swell swell;
    const WaveSettings* waves = nullptr;
};
/// Of an element, if it is water.
std::optional<WaterLevel> waterLevelOf(const scene::Project& project, const scene::Element& element);
/// The first that is not silent.
std::optional<WaterLevel> waterNear(const scene::Project& project);
/// Of one of either kind; waterLevelOf() asks both.
std::optional<WaterLevel> openWaterLevel(const scene::Project& project, const scene::Element& element);
std::optional<WaterLevel> poolLevel(const scene::Project& project, const scene::Element& element);

/// Rows of a card.
template <class T> void describeWater(scene::TableOf<T>& t)
{
    t.choice("type", "water", &T::type, waterTypeIds())
        .lead()
        .in("Water")
        .says("What is in it: its colour, and how far one sees into it.");
    t.number("foam", "foam", &T::foam, Quantity::Share)
        .hard(0, 100)
        .soft(0, 3)
        .in("Water")
        .says("White where waves break, of the share that is usual in such wind; and in wakes and at shores. 0: none.");
    t.number("foamLife", "foam lasts", &T::foamLife, Quantity::Time)
        .hard(0, 600)
        .soft(0, 15)
        .in("Water")
        .says("Time in which half of the foam that waves and wakes leave behind is gone.");
    t.number("spray", "spray", &T::spray, Quantity::Share)
        .hard(0, 20)
        .soft(0, 3)
        .in("Water")
        .says("Water that flies: at bows, where something falls in, where waves run up at what stands in them, and off "
              "crests in strong wind. 0: none.");
    t.number("speed", "wind", &T::speed, Quantity::Speed)
        .hard(0, 60)
        .soft(0, 25)
        .lead()
        .in("Waves")
        .when("wind=")
        .says("Of the wind that makes its waves, 10 m over it.");
    t.number("heading", "blows toward", &T::heading, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 360)
        .in("Waves")
        .when("wind=")
        .says("Heading of that wind, clockwise from −Z seen from above.");
    t.text("wind", "made by", &T::wind)
        .linked("wind")
        .in("Waves")
        .says("A Wind that makes its waves, in place of its own numbers.");
    t.number("fetch", "blows over", &T::fetch, Quantity::Length)
        .hard(1, 2e6)
        .soft(20, 1e6)
        .log()
        .lead()
        .in("Waves")
        .says("How much water the wind has run over: a pond 100 m, a lake 5 km, a sea 300 km.");
    t.number("choppy", "choppiness", &T::choppy, Quantity::Share)
        .hard(0, 10)
        .soft(0, 3)
        .in("Waves")
        .says("How much waves lean together at their crests: 100 % as water does, more is sharper.");
    t.toggle("holdsFolds", "holds folds", &T::holdsFolds)
        .in("Waves")
        .says("Takes choppiness back where too much of the surface would fold over itself.");
    t.number("foldLimit", "at most", &T::foldLimit, Quantity::Share)
        .hard(0, 1)
        .soft(0, 0.2)
        .in("Waves")
        .when("holdsFolds=on")
        .says("Share of the surface that may fold over itself.");
    t.number("strength", "height", &T::strength, Quantity::Share)
        .hard(0, 10)
        .soft(0, 2)
        .in("Waves")
        .says("Heights of all waves, of what that wind makes.");
    t.number("wakes", "wakes", &T::wakes, Quantity::Share)
        .hard(0, 10)
        .soft(0, 2)
        .in("Waves")
        .says("Waves of sets that move in it, by keys or a clip, of what they push aside; 0: none.");
    t.number("narrow", "keeps to the wind", &T::narrow, Quantity::Share)
        .hard(0.05, 20)
        .soft(0.2, 3)
        .log()
        .edited("waves")
        .in("Waves")
        .says("How closely waves run with the wind: 100 % as at sea, less is confused, more is rank behind rank.");
    t.number("opposing", "against it", &T::opposing, Quantity::Share)
        .hard(0, 1)
        .soft(0, 0.5)
        .in("Waves")
        .says("Share of the waves' energy that runs against the wind, as what a shore throws back.");
    t.number("shortest", "shortest wave", &T::shortest, Quantity::Length)
        .hard(0.005, 100)
        .soft(0.01, 1)
        .log()
        .in("Waves")
        .says("Shorter ones are a roughness of the surface and no shape.");
    t.number("pace", "pace", &T::pace, Quantity::Share)
        .hard(0, 10)
        .soft(0, 2)
        .fixed()
        .in("Waves")
        .says("How fast its time runs: under 100 % waves look larger.");
    t.choice("detail", "detail", &T::detail, {"quick", "fine", "finest"})
        .in("Waves")
        .fixed()
        .says("How many waves there are: finer repeats later and takes longer.");
    t.whole("seed", "seed", &T::seed).hard(0, 1e6).soft(0, 100).in("Waves").says("Another number, other waves.");
}
} // namespace hygros::elements
