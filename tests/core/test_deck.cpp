/// Cloud decks: coverage, shadow, brightness against path-traced light, drift without popping, no period.
#include "elements/kinds.h"
#include "media/deck_diffusion.h"
#include "render/bodies.h"
#include "render/frame.h"
#include "render/still.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using namespace hygros::media;

namespace {
CloudDeck broken(float coverage = 0.5f)
{
    CloudDeck d;
    d.id = "deck";
    d.coverage = coverage;
    d.seed = 3;
    d.phase = plainPhase(0.8f);
    d.settle();
    return d;
}
float densityAt(const CloudDeck& d, float x, float y, float z)
{
    return deckDensity8(d, f8(x), f8(y), f8(z), f8(10.f))[0];
}
/// Optical depth straight through.
double column(const CloudDeck& d, float x, float z)
{
    double sum = 0.0;
    for (int i = 0; i < 40; ++i)
        sum += double(densityAt(d, x, d.base + d.thickness * (static_cast<float>(i) + 0.5f) / 40.f, z));
    return sum / 40.0 * double(d.thickness * d.sigmaT);
}
std::shared_ptr<shot::Shot> under(const CloudDeck& d, Vec3 aim, float elevation = 40.f)
{
    auto s = std::make_shared<shot::Shot>();
    s->scene = test::plate(0.f, 20000.f, Vec3(0.3f));
    light::SkySettings sky;
    sky.elevation = radians(elevation);
    sky.azimuth = 0.6f;
    s->sky = std::make_shared<light::Sky>(sky);
    s->sunId = "sun";
    s->camera = {Vec3(0, 2, 0), Vec3(0, 2, 0) + aim, 26.f, 36.f};
    s->decks = {d};
    s->decks[0].shadow = std::make_shared<DeckShadow>(d, s->sky->sunDirection(), s->camera.position);
    s->decks[0].diffusion = std::make_shared<DeckDiffusion>(d, s->sky->sunDirection());
    return s;
}
render::Layers still(std::shared_ptr<const shot::Shot> s, int samples, int w = 96, int h = 54,
                     std::shared_ptr<render::PathRatios> ratios = nullptr, bool followsPaths = true)
{
    JobControl job;
    render::StillSettings settings;
    settings.width = w;
    settings.height = h;
    settings.samples = samples;
    settings.ratios = std::move(ratios);
    settings.followsPaths = followsPaths;
    return render::renderStill(s, settings, job);
}
render::Layers paths(std::shared_ptr<const shot::Shot> s, int samples, int w, int h)
{
    JobControl job;
    render::StillSettings settings;
    settings.width = w;
    settings.height = h;
    settings.samples = samples;
    settings.air = render::StillAir::Paths;
    return render::renderStill(s, settings, job);
}
double beautyAt(const render::Layers& l, std::size_t p, std::size_t c)
{
    return double(l.plate[p * 3 + c] * l.transmittance[p * 3 + c] + l.air[p * 3 + c]);
}
} // namespace

class TestDeck : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void pathsLookThroughItAsItsDepthHasIt()
    {
        // By tentative places, in the mean, against sums along the way; also where it is so dense that they would lie
        // millimetres apart in its gaps.
        for (const float sigma : {0.004f, 0.05f, 400.f}) {
            CloudDeck d = broken(0.4f);
            d.sigmaT = sigma;
            auto s = std::make_shared<shot::Shot>();
            s->decks = {d};
            const auto body = render::deckBody(*s);
            const Vec3 way = Vec3(0.5f, 0.6f, -0.3f).normalized();
            double told = 0.0, wanted = 0.0;
            for (int i = 0; i < 24; ++i) {
                const Vec3 from(static_cast<float>(i % 6) * 700.f, d.base - 10.f, static_cast<float>(i / 6) * 900.f);
                constexpr int steps = 6000;
                const float begin = 10.f / way.y, length = d.thickness / way.y;
                double depth = 0.0;
                for (int k = 0; k < steps; ++k) {
                    const Vec3 p = from + way * (begin + length * (static_cast<float>(k) + 0.5f) / steps);
                    depth += double(deckDensity8(d, f8(p.x), f8(p.y), f8(p.z), f8(0.f))[0] * sigma * length / steps);
                }
                wanted += std::exp(-depth) / 24.0;
                constexpr int each = 60;
                for (int k = 0; k < each; ++k) {
                    Random random(hash32(static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(k)));
                    Vec3 left(1.f);
                    body->through(from, way, media::outsideDistance, false, random, left);
                    told += double(left.y) / (24.0 * each);
                }
            }
            QVERIFY2(std::abs(told - wanted) < 0.02, qPrintable(QString("%1: %2 %3").arg(sigma).arg(told).arg(wanted)));
            QVERIFY(wanted > 0.1 && wanted < 0.9);
        }
    }
    void coverageIsTheShareOfSkyThatIsCovered_data()
    {
        QTest::addColumn<float>("coverage");
        for (const float c : {0.15f, 0.4f, 0.6f, 0.85f})
            QTest::newRow(qPrintable(QString::number(double(c)))) << c;
    }
    void coverageIsTheShareOfSkyThatIsCovered()
    {
        QFETCH(float, coverage);
        const CloudDeck d = broken(coverage);
        int covered = 0, all = 0;
        for (int i = 0; i < 60; ++i)
            for (int j = 0; j < 60; ++j, ++all)
                covered += column(d, static_cast<float>(i) * 611.f - 18000.f, static_cast<float>(j) * 577.f - 17000.f) >
                           0.3;
        const double share = double(covered) / all;
        qInfo("wanted %.2f, found %.3f", double(coverage), share);
        QVERIFY(std::abs(share - double(coverage)) < 0.06);
    }

    void everyKindCoversWhatItSaysAndFillsItsLayerOnly()
    {
        // Chosen by name as on the card: the numbers go along, and stay where they were changed after that.
        scene::Project p = elements::newProject();
        Store store;
        JobControl job;
        const std::string id = p.add(*elements::findKind("cloudDeck"), "Deck").id;
        for (const char* form : {"cumulus", "stratocumulus", "stratus", "altocumulus", "nimbostratus"}) {
            elements::setValue(p, id, "form", std::string(form), store);
            const CloudDeck d = elements::freeze(p, store, job)->decks.at(0);
            int covered = 0, all = 0;
            const float below = d.base + d.floor * d.thickness;
            for (int i = 0; i < 40; ++i)
                for (int j = 0; j < 40; ++j, ++all) {
                    const float x = (static_cast<float>(i) - 20.f) * 3.1f * d.scale,
                                z = (static_cast<float>(j) - 20.f) * 2.9f * d.scale;
                    double sum = 0.0;
                    for (int k = 0; k < 12; ++k) {
                        const float y = below + (d.base + d.thickness - below) * (static_cast<float>(k) + 0.5f) / 12.f,
                                    v = densityAt(d, x, y, z);
                        QVERIFY(v >= 0.f && v <= 1.f);
                        sum += double(v) / 12.0;
                    }
                    covered += sum * double((d.base + d.thickness - below) * d.sigmaT) > 0.5;
                    QVERIFY(densityAt(d, x, d.base - 1.f, z) == 0.f &&
                            densityAt(d, x, d.base + d.thickness + 1.f, z) == 0.f);
                }
            const double share = double(covered) / all;
            QVERIFY2(std::abs(share - double(d.coverage)) < 0.07,
                     qPrintable(QString("%1: %2 for %3").arg(form).arg(share).arg(double(d.coverage))));
        }
        elements::setValue(p, id, "base", 1111.0, store);
        QCOMPARE(std::get<std::string>(p.find(id)->value("form")), std::string("nimbostratus"));
        QCOMPARE(std::get<double>(p.find(id)->value("base")), 1111.0);
    }

    void whatFallsHangsUnderThickCloudAndThinsOut()
    {
        CloudDeck d = broken(0.6f);
        d.base -= 500.f;
        d.thickness += 500.f;
        d.floor = 500.f / d.thickness;
        d.fallout = 1.f;
        d.settle();
        double high = 0.0, low = 0.0, most = 0.0;
        int none = 0, all = 0;
        for (int i = 0; i < 60; ++i)
            for (int j = 0; j < 60; ++j, ++all) {
                const float x = static_cast<float>(i) * 311.f, z = static_cast<float>(j) * 277.f;
                const double a = double(densityAt(d, x, d.base + 430.f, z)),
                             b = double(densityAt(d, x, d.base + 80.f, z));
                high += a;
                low += b;
                most = std::max(most, a);
                none += a == 0.0;
            }
        QVERIFY(high > 0.0 && low > 0.0 && low < 0.5 * high);
        QVERIFY(most < 0.2);                             // far thinner than cloud
        QVERIFY(none > all / 10 && none < all * 9 / 10); // under some of it only
    }

    void itsEndsAreEmpty()
    {
        CloudDeck d = broken(0.f);
        for (int i = 0; i < 200; ++i)
            QCOMPARE(densityAt(d, static_cast<float>(i) * 301.f, 1500.f, 7.f), 0.f);
        d = broken(1.f);
        int holes = 0;
        for (int i = 0; i < 400; ++i)
            holes += column(d, static_cast<float>(i) * 301.f, static_cast<float>(i % 13) * 777.f) < 0.5;
        QVERIFY(holes < 12);
        QCOMPARE(densityAt(d, 0, d.base - 1.f, 0), 0.f);
        QCOMPARE(densityAt(d, 0, d.base + d.thickness + 1.f, 0), 0.f);
    }

    void theMeanColumnIsTheMeanOfColumns()
    {
        const CloudDeck d = broken(0.5f);
        double sum = 0.0;
        for (int i = 0; i < 50; ++i)
            for (int j = 0; j < 50; ++j)
                sum += column(d, static_cast<float>(i) * 711.f - 18000.f, static_cast<float>(j) * 677.f - 17000.f) /
                       2500.0;
        NEAR(d.meanColumn, sum, 0.15);
    }

    void itsShadowIsTheSunlightThatComesThrough()
    {
        const CloudDeck d = broken(0.5f);
        const Vec3 sun = Vec3(0.5f, 0.6f, -0.3f).normalized();
        const DeckShadow shadow(d, sun, Vec3(0));
        double worst = 0.0, mean = 0.0, near = 0.0, nearWorst = 0.0;
        for (int i = 0; i < 800; ++i) {
            // Near the eye as well, where sets stand.
            const float apart = i < 400 ? 1.f : 0.13f;
            const Vec3 p((static_cast<float>(i % 20) * 240.f - 2400.f) * apart, 0.f,
                         (static_cast<float>(i / 20 % 20) * 230.f - 2300.f) * apart);
            // The straight way through, finely.
            double tau = 0.0;
            const double t0 = double(d.base / sun.y), t1 = double((d.base + d.thickness) / sun.y);
            for (int k = 0; k < 200; ++k) {
                const Vec3 q = p + sun * static_cast<float>(t0 + (t1 - t0) * (k + 0.5) / 200.0);
                tau += double(densityAt(d, q.x, q.y, q.z)) * double(d.sigmaT) * (t1 - t0) / 200.0;
            }
            const double difference = std::abs(std::exp(-double(shadow.depth8(f8(p.x), f8(p.y), f8(p.z))[0])) -
                                               std::exp(-tau));
            (i < 400 ? worst : nearWorst) = std::max(i < 400 ? worst : nearWorst, difference);
            (i < 400 ? mean : near) += difference / 400.0;
        }
        qInfo("shadow against fine steps: mean %.3f, worst %.3f; near %.4f, worst %.3f", mean, worst, near, nearWorst);
        QVERIFY(near < 0.006 && nearWorst < 0.09);
        QVERIFY(mean < 0.065); // its grid has a value every 90 m, heaps are smaller
        // Above the deck there is none.
        QCOMPARE(shadow.depth8(f8(0.f), f8(d.base + d.thickness), f8(0.f))[0], 0.f);
        // Far outside its grid the mean holds.
        NEAR(std::exp(-shadow.depth8(f8(9e4f), f8(0.f), f8(0.f))[0]), shadow.mean(), 1e-3);
    }

    void theGroundUnderItIsDappled()
    {
        const CloudDeck d = broken(0.5f);
        // From 800 m up, so that several kilometres of ground are seen.
        const auto s = under(d, Vec3(0, -0.3f, -1));
        s->camera = {Vec3(0, 800, 0), Vec3(0, 300, -1000), 26.f, 36.f};
        auto clear = std::make_shared<shot::Shot>(*s);
        clear->decks.clear();
        const render::Layers a = still(s, 2), b = still(clear, 2);
        double darkest = 1e9, lightest = 0.0;
        for (std::size_t p = a.pixels() * 2 / 3; p < a.pixels(); ++p)
            if (b.plate[p * 3] > 0.f) {
                darkest = std::min(darkest, double(a.plate[p * 3] / b.plate[p * 3]));
                lightest = std::max(lightest, double(a.plate[p * 3] / b.plate[p * 3]));
            }
        QVERIFY(darkest > 0.02); // no black: light comes around
        // In the gaps the clouds' own light adds to the sun's: paths give up to 1.4 of the clear ground.
        QVERIFY2(lightest > 1.05 && lightest < 1.45, qPrintable(QString::number(lightest)));
        auto shadeless = std::make_shared<shot::Shot>(*s);
        shadeless->decks[0].shadow = nullptr;
        // Paths know of no deck without its shadow: both as they are marched.
        const render::Layers shaded = still(s, 2, 96, 54, nullptr, false),
                             c = still(shadeless, 2, 96, 54, nullptr, false);
        double sum = 0.0, sumShaded = 0.0;
        for (std::size_t p = a.pixels() * 2 / 3; p < a.pixels(); ++p) {
            sum += double(c.plate[p * 3]);
            sumShaded += double(shaded.plate[p * 3]);
        }
        qInfo("with its shadow %.2f, without %.2f; darkest %.2f, lightest %.2f of clear", sumShaded, sum, darkest,
              lightest);
        QVERIFY(sumShaded < 0.95 * sum);
    }

    void itIsAboutAsBrightAsPathsSay()
    {
        // An even overcast, looked at from below: all orders of scattering against the live approximation.
        CloudDeck d = broken(1.f);
        d.erosion = 0.f;
        d.sigmaT = 0.02f;
        d.heaped = 0.f;
        d.phase = plainPhase(0.7f);
        d.settle();
        const auto s = under(d, Vec3(0, 0.7f, -1));
        const render::Layers live = still(s, 8, 24, 16, nullptr, false), truth = paths(s, 220, 24, 16);
        double a = 0.0, b = 0.0;
        for (std::size_t p = 0; p < live.pixels() / 2; ++p) {
            a += beautyAt(live, p, 1);
            b += beautyAt(truth, p, 1);
        }
        qInfo("overcast from below: live %.3f of path traced", a / b);
        QVERIFY(a / b > 0.85 && a / b < 1.15);
    }

    void brokenCloudIsAsBrightAsPathsSay_data()
    {
        QTest::addColumn<float>("elevation");
        QTest::addColumn<float>("coverage");
        QTest::addColumn<float>("heading"); // of the look, from the sun
        QTest::newRow("low sun on the flanks") << 14.f << 0.3f << 140.f;
        QTest::newRow("low sun behind") << 14.f << 0.4f << 30.f;
        QTest::newRow("high sun from below") << 55.f << 0.65f << 100.f;
        QTest::newRow("half, across") << 35.f << 0.5f << 75.f;
    }
    void brokenCloudIsAsBrightAsPathsSay()
    {
        // Flanks in the sun, gaps that let light out, bases in shade: the march alone.
        QFETCH(float, elevation);
        QFETCH(float, coverage);
        QFETCH(float, heading);
        CloudDeck d = broken(coverage);
        d.phase = plainPhase(0.85f);
        d.settle();
        const float azimuth = 0.6f + radians(static_cast<double>(heading));
        const auto s = under(d, Vec3(std::sin(azimuth), 0.45f, -std::cos(azimuth)), elevation);
        const render::Layers live = still(s, 16, 36, 24, nullptr, false), truth = paths(s, 300, 36, 24);
        double a = 0.0, b = 0.0;
        for (std::size_t p = 0; p < live.pixels(); ++p) {
            a += double(live.air[p * 3 + 1]);
            b += double(truth.air[p * 3 + 1]);
        }
        qInfo("live %.3f of path traced", a / b);
        QVERIFY(a / b > 0.85 && a / b < 1.15);
    }

    void aDeckBehindAnotherIsAsDeepInItself()
    {
        // A thick deck above one that hides it: what comes through is that of its dark underside.
        CloudDeck low = broken(1.f);
        low.erosion = low.heaped = 0.f;
        low.sigmaT = 0.015f;
        low.settle();
        DeckSun sun{Vec3(0.3f, 0.8f, 0.f).normalized(), Vec3(1.f), Vec3(0.f), Vec3(0.f), Vec3(0.f)};
        low.diffusion = std::make_shared<DeckDiffusion>(low, sun.direction);
        CloudDeck high = low;
        high.base = low.base + 2000.f;
        high.sigmaT = 0.1f;
        high.diffusion = std::make_shared<DeckDiffusion>(high, sun.direction);
        const auto seen = [&](const std::vector<CloudDeck>& decks) {
            DeckLight8 out;
            lightDecks8(decks, sun, ray8(Vec3(0.f), Vec3(0, 1, 0)), f8(1.5e5f), f8(0.5f), 1.5e5f, out);
            return double(out.sun[1][0]);
        };
        const double alone = seen({low}), behind = seen({low, high}) - alone, itself = seen({high});
        qInfo("below %.4f, above it %.4f, of that through the lower %.4f", alone, itself, behind);
        QVERIFY(behind > 0.0 && behind < itself);
    }

    void withLightFromEverywhereAWhiteCloudIsNotSeen()
    {
        // Sky and ground of radiance 1 around what takes nothing away: 1 is everywhere (reciprocity), whatever its
        // shape. And what takes something is darker, by colour.
        CloudDeck d = broken(0.6f);
        const Vec3 sun = Vec3(0.4f, 0.5f, -0.2f).normalized();
        const DeckDiffusion white(d, sun);
        double worst = 0.0;
        for (int i = 0; i < 8; ++i)
            for (int k = 0; k < 8; ++k) {
                const auto m = white.at8(0, f8(0.06f + 0.12f * static_cast<float>(i)),
                                         f8(2.5f * static_cast<float>(k)));
                worst = std::max(worst, std::abs(double(m.sky[0] + m.ground[0]) - 1.0));
                QVERIFY(m.sun[0] > 0.f && m.sky[0] > 0.f && m.ground[0] > 0.f);
            }
        qInfo("a white cloud in light from everywhere: within %.4f", worst);
        QVERIFY(worst < 0.02);
        d.albedo = Vec3(0.99f, 0.9f, 0.7f);
        const DeckDiffusion grey(d, sun);
        const auto sum = [&](int c) {
            const auto m = grey.at8(c, f8(0.4f), f8(8.f));
            return m.sky[0] + m.ground[0];
        };
        QVERIFY(sum(0) < 0.99f && sum(1) < sum(0) - 0.05f && sum(2) < sum(1) - 0.1f);
        // High up there is more of the sky, low down more of the ground.
        const auto low = white.at8(0, f8(0.1f), f8(4.f)), high = white.at8(0, f8(0.9f), f8(4.f));
        QVERIFY(high.sky[0] > low.sky[0] + 0.1f && low.ground[0] > high.ground[0] + 0.1f);
        // The same wherever it has drifted to.
        CloudDeck drifted = broken(0.6f);
        drifted.offset = Vec3(5000.f, 0.f, -700.f);
        QCOMPARE(DeckDiffusion(drifted, sun).at8(0, f8(0.3f), f8(3.f)).sun[0], white.at8(0, f8(0.3f), f8(3.f)).sun[0]);
    }

    void transmittanceIsThatOfTheCloud()
    {
        // Straight up through an even deck: exp(−column), by the delivered layer.
        CloudDeck d = broken(1.f);
        d.sigmaT = 0.004f;
        d.erosion = 0.f;
        d.settle();
        const auto s = under(d, Vec3(0, 1, -0.001f));
        const render::Layers l = still(s, 24, 24, 16);
        const geometry::View view(s->camera, 24, 16);
        double difference = 0.0;
        for (int y = 0; y < 16; y += 3)
            for (int x = 0; x < 24; x += 3) {
                const Vec3 dir = view.direction(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f);
                double tau = 0.0;
                for (int k = 0; k < 200; ++k) {
                    const float t = (d.base - 2.f + d.thickness * (static_cast<float>(k) + 0.5f) / 200.f) / dir.y;
                    const Vec3 q = s->camera.position + dir * t;
                    tau += double(densityAt(d, q.x, q.y, q.z)) * double(d.sigmaT * d.thickness / dir.y) / 200.0;
                }
                difference += std::abs(double(l.transmittance[static_cast<std::size_t>(y * 24 + x) * 3]) -
                                       std::exp(-tau)) /
                              48.0;
            }
        QVERIFY2(difference < 0.02, qPrintable(QString::number(difference)));
    }

    void itGoesOnToTheHorizonInBoth()
    {
        // A closed deck at 600 m, looked at where it is 67 km away: no strip of bare sky under it, live or by paths.
        CloudDeck d = broken(1.f);
        d.base = 600.f;
        d.settle();
        const auto s = under(d, Vec3(0.f, 0.009f, -1.f), 5.f);
        s->camera.focalMm = 20000.f;
        for (const render::Layers& l : {still(s, 4, 16, 16), paths(s, 16, 16, 16)}) {
            double through = 0.0;
            for (std::size_t p = 0; p < l.pixels(); ++p)
                through += double(l.transmittance[p * 3 + 1]) / double(l.pixels());
            QVERIFY2(through < 0.02, qPrintable(QString::number(through)));
        }
    }

    void driftIsSmoothFromFrameToFrame()
    {
        // 60 frames of drift at grazing view, 2 km under the deck: no frame may differ from the next much more than
        // they all do.
        CloudDeck d = broken(0.55f);
        d.base = 2002.f;
        std::vector<double> changes;
        std::vector<float> before;
        double brightness = 0.0;
        // As a sequence is delivered: what paths say of the first frame holds.
        const auto ratios = std::make_shared<render::PathRatios>();
        for (int frame = 0; frame < 60; ++frame) {
            CloudDeck now = d;
            now.offset = Vec3(8.f * static_cast<float>(frame) / 25.f, 0.f, -3.f * static_cast<float>(frame) / 25.f);
            auto s = under(now, Vec3(0, 0.12f, -1), 25.f);
            s->scene = test::emptyScene();
            const render::Layers l = still(s, 4, 48, 27, ratios);
            std::vector<float> picture;
            for (std::size_t p = 0; p < l.pixels(); ++p)
                picture.push_back(static_cast<float>(beautyAt(l, p, 1)));
            if (!before.empty()) {
                double change = 0.0;
                for (std::size_t p = 0; p < picture.size(); ++p)
                    change += std::abs(double(picture[p] - before[p])) / double(picture.size());
                changes.push_back(change);
            }
            for (const float v : picture)
                brightness += double(v) / double(picture.size()) / 60.0;
            before = picture;
        }
        std::vector<double> sorted = changes;
        std::sort(sorted.begin(), sorted.end());
        const double usual = sorted[sorted.size() / 2], most = sorted.back();
        qInfo("change from frame to frame: usual %.2f %% of the brightness, most %.2f %%", 100 * usual / brightness,
              100 * most / brightness);
        QVERIFY(usual > 0.0);
        QVERIFY(most < 2.5 * usual);
        QVERIFY(usual < 0.03 * brightness);
    }

    void itDoesNotRepeat()
    {
        // Autocorrelation of the column along a line of 60 km: away from itself it stays low.
        const CloudDeck d = broken(0.5f);
        std::vector<double> line;
        for (int i = 0; i < 1200; ++i)
            line.push_back(double(densityAt(d, static_cast<float>(i) * 50.f - 30000.f, d.base + 90.f, 400.f)));
        double mean = 0.0, variance = 0.0;
        for (const double v : line)
            mean += v / double(line.size());
        for (const double v : line)
            variance += (v - mean) * (v - mean) / double(line.size());
        double most = 0.0;
        for (std::size_t lag = 60; lag < 600; ++lag) { // from 3 km on
            double sum = 0.0;
            for (std::size_t i = 0; i + lag < line.size(); ++i)
                sum += (line[i] - mean) * (line[i + lag] - mean);
            most = std::max(most, sum / double(line.size() - lag) / variance);
        }
        QVERIFY2(most < 0.5, qPrintable(QString::number(most)));
    }

    void aChangeOfTheHazeKeepsWhatWasSeenOfTheDeck()
    {
        const auto s = under(broken(0.5f), Vec3(0, 0.4f, -1));
        auto hazy = std::make_shared<shot::Shot>(*s);
        hazy->media = {test::uniformAir(5e-5f)};
        const std::atomic<bool> never{false};
        render::Frame frame(s, 64, 40);
        frame.setFollowsPaths(false);
        for (int pass = 0; pass < 8; ++pass) {
            frame.trace(pass, never);
            frame.light(never);
        }
        frame.setAir(hazy, true);
        frame.light(never);
        std::vector<float> once, again;
        frame.resolve(once);
        // The same frame built for the haze from the beginning differs by a look's jitter at most.
        render::Frame fresh(hazy, 64, 40);
        fresh.setFollowsPaths(false);
        for (int pass = 0; pass < 8; ++pass) {
            fresh.trace(pass, never);
            fresh.light(never);
        }
        fresh.resolve(again);
        double difference = 0.0, sum = 0.0;
        for (std::size_t i = 0; i < once.size(); ++i) {
            difference += std::abs(double(once[i] - again[i]));
            sum += double(again[i]);
        }
        QVERIFY2(difference < 0.02 * sum, qPrintable(QString::number(difference / sum)));
    }
};

QTEST_GUILESS_MAIN(TestDeck)
#include "test_deck.moc"
