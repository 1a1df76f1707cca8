#include "app/choices.h"

#include <QLocale>
#include <QSettings>
#include <QStandardPaths>
#include <algorithm>
#include <memory>
#include <tbb/global_control.h>

namespace hygros::app {
namespace {
/// Calls use(key, member) for each: one list for reading and writing.
template <class C, class Use> void each(C& c, const Use& use)
{
    use("lightWindow", c.light);
    use("interfaceScale", c.scale);
    use("samples", c.samples);
    use("followPaths", c.followsPaths);
    use("threads", c.threads);
    use("keptGigabytes", c.keptGb);
    use("bakedGigabytes", c.bakedGb);
    use("cacheFolder", c.cacheFolder);
    use("cacheGigabytes", c.cacheGb);
    use("decimalSign", c.decimal);
    use("language", c.language);
    use("firstShown", c.firstShown);
}
} // namespace

Choices Choices::now()
{
    const QSettings s;
    Choices c;
    each(c, [&](const char* key, auto& member) {
        const QVariant v = s.value(key);
        using T = std::remove_reference_t<decltype(member)>;
        if (v.isValid() && v.canConvert<T>())
            member = v.value<T>();
    });
    c.length = s.value("lengths").toString() == "feet" ? ShownUnits::Length::Feet : ShownUnits::Length::Metres;
    c.speed = s.value("speeds").toString() == "km/h" ? ShownUnits::Speed::KilometresPerHour
                                                     : ShownUnits::Speed::MetresPerSecond;
    // Whatever somebody wrote there by hand.
    c.scale = std::clamp(c.scale, 75, 300);
    c.samples = std::clamp(c.samples, 1, 65536);
    c.threads = std::clamp(c.threads, 0, 1024);
    c.keptGb = std::clamp(c.keptGb, 0.1, 512.0);
    c.bakedGb = std::clamp(c.bakedGb, 0.1, 100000.0);
    c.cacheGb = std::clamp(c.cacheGb, 0.0, 100000.0);
    c.decimal = std::clamp(c.decimal, 0, 2);
    return c;
}

void Choices::keep() const
{
    QSettings s;
    each(*this, [&](const char* key, const auto& member) { s.setValue(key, member); });
    s.setValue("lengths", length == ShownUnits::Length::Feet ? "feet" : "metres");
    s.setValue("speeds", speed == ShownUnits::Speed::KilometresPerHour ? "km/h" : "m/s");
}

ShownUnits Choices::units() const
{
    return {length, speed, decimal == Comma || (decimal == System && QLocale::system().decimalPoint() == ",")};
}

QString Choices::cache() const
{
    return cacheFolder.isEmpty() ? QStandardPaths::writableLocation(QStandardPaths::CacheLocation) : cacheFolder;
}

void apply(const Choices& c)
{
    setShownUnits(c.units());
    static std::unique_ptr<tbb::global_control> threads;
    static int now = 0;
    if (c.threads != now) {
        threads.reset();
        if (c.threads > 0)
            threads = std::make_unique<tbb::global_control>(tbb::global_control::max_allowed_parallelism,
                                                            static_cast<std::size_t>(c.threads));
        now = c.threads;
    }
}
} // namespace hygros::app
