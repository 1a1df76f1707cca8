/// Planes against numbers worked out by hand; soundings against what their texts must hold.
#include "elements/kinds.h"
#include "reading/planes.h"
#include "reading/transect.h"
#include "render/sounding.h"
#include "support.h"

using namespace hygros;
using namespace hygros::reading;

class TestReading : public QObject {
    Q_OBJECT
    /// A strip of pixels by distance and grey.
    struct Strip {
        std::vector<float> rgb, depth;
        void add(int n, float d, Vec3 c)
        {
            for (int i = 0; i < n; ++i) {
                depth.push_back(d);
                rgb.insert(rgb.end(), {c.x, c.y, c.z});
            }
        }
        PlanePicture picture() const { return {static_cast<int>(depth.size()), 1, rgb, depth}; }
    };

private Q_SLOTS:
    void meansAndSeparationsAreInStops()
    {
        Strip s;
        s.add(10, 5.f, Vec3(0.09f));  // one stop under middle grey
        s.add(10, 8.f, Vec3(0.045f)); // two
        s.add(20, 60.f, Vec3(0.18f));
        s.add(30, 30000.f, Vec3(0.72f)); // the sky belongs to the last
        const float borders[] = {20.f, 200.f};
        const Planes p = planesOf(s.picture(), borders);
        QCOMPARE(p.planes.size(), 3u);
        NEAR(p.planes[0].meanStops, -1.5, 1e-5);
        NEAR(p.planes[0].spreadStops, 0.5, 1e-4);
        QVERIFY(std::abs(p.planes[1].meanStops) < 1e-5f);
        NEAR(p.planes[2].meanStops, 2.0, 1e-5);
        NEAR(p.separation[0], 1.5, 1e-5);
        NEAR(p.separation[1], 2.0, 1e-5);
        QCOMPARE(p.planes[2].pixels, 30u);
        NEAR(std::accumulate(p.planes[0].tones.begin(), p.planes[0].tones.end(), 0.0), 1.0, 1e-6);
    }

    void neutralHasNoChromaAndRedHasThatOfItsPrimary()
    {
        Strip s;
        s.add(4, 5.f, Vec3(0.3f));
        s.add(4, 50.f, Vec3(0.3f, 0.f, 0.f));
        const float borders[] = {20.f};
        const Planes p = planesOf(s.picture(), borders);
        QVERIFY(p.planes[0].chroma < 5e-4f);
        // Rec. 709 red lies at u′ 0.4507, v′ 0.5229.
        NEAR(p.planes[1].chroma, std::hypot(0.4507 - 0.19783, 0.5229 - 0.46834), 2e-3);
    }

    void emptyPlanesAndBlackAreNoTrouble()
    {
        Strip s;
        s.add(3, 5.f, Vec3(0.f));
        const float borders[] = {20.f, 200.f};
        const Planes p = planesOf(s.picture(), borders);
        QVERIFY(std::isfinite(p.planes[0].meanStops));
        QCOMPARE(p.planes[1].pixels, 0u);
        QCOMPARE(p.separation[0], 0.f);
        QCOMPARE(planesOf({}, borders).planes.size(), 3u);
    }

    void bordersFallIntoTheGapsOfTheDepth()
    {
        Strip s;
        for (int i = 0; i < 60; ++i) {
            s.add(1, 3.f + 0.05f * static_cast<float>(i), Vec3(0.1f));
            s.add(1, 40.f + static_cast<float>(i), Vec3(0.1f));
            s.add(1, 900.f + 10.f * static_cast<float>(i), Vec3(0.1f));
        }
        s.add(500, 30000.f, Vec3(1.f));
        const auto borders = bordersFromDepth(s.picture());
        QVERIFY(borders[0] > 6.f && borders[0] < 40.f);
        QVERIFY(borders[1] > 99.f && borders[1] < 900.f);
        QCOMPARE(bordersFromDepth({}).size(), 2u);
    }

    void aSoundingsTableHasALineADistance()
    {
        render::Sounding s;
        s.depth = 10.f;
        s.distance = {0.f, 10.f};
        s.transmittance = {1.f, 0.5f};
        s.sunAndSky = std::vector<Vec3>(2, Vec3(0.f));
        s.sunAndSky[1] = Vec3(0.2f);
        s.elements.resize(1);
        s.elements[0].id = "mist, \"low\"";
        s.elements[0].extinction = {0.1f, 0.1f};
        s.elements[0].light = std::vector<Vec3>(2, Vec3(0.f));
        s.elements[0].light[1] = Vec3(0.2f);
        s.lamps.resize(1);
        s.lamps[0].id = "lamp";
        s.lamps[0].light = std::vector<Vec3>(2, Vec3(0.f));
        s.lamps[0].light[1] = Vec3(0.1f);
        NEAR(s.airLight().y, 0.3, 1e-6);
        const QStringList lines = QString::fromStdString(s.csv()).split('\n');
        QCOMPARE(lines[0], QString("distance_m,transmittance,extinction_per_m,air_light,\"mist, \"\"low\"\" "
                                   "extinction_per_m\",\"mist, \"\"low\"\" light\",\"lamp light\""));
        QCOMPARE(lines[2], QString("10,0.5,0.1,0.3,0.1,0.2,0.1"));
    }

    void theTransectShowsWaterAndItsGround()
    {
        Store store;
        JobControl job;
        scene::Project p = elements::newProject();
        scene::Element& w = p.add(*elements::findKind("openWater"), "Sea");
        w.set("level", 0.5);
        w.set("speed", 10.0);
        const auto shot = elements::freeze(p, store, job);
        reading::TransectGrid grid;
        grid.columns = 60;
        grid.farthest = 400.f;
        const reading::Transect t = reading::transectOf(*shot, grid);
        QCOMPARE(t.crest.size(), t.distance.size());
        NEAR(t.waterLevel, 0.5f, 1e-5);
        QVERIFY(t.seesUnder > 1.f);
        float high = -10.f, low = 10.f;
        for (std::size_t i = 0; i < t.crest.size(); ++i) {
            QVERIFY(t.crest[i] >= t.trough[i]);
            high = std::max(high, t.crest[i]);
            low = std::min(low, t.trough[i]);
            QVERIFY(std::isnan(t.ground[i])); // water is no ground
        }
        QVERIFY(high > 0.6f && low < 0.4f && high < 5.f && low > -4.f);
        std::erase_if(p.elements, [](const scene::Element& e) { return e.kind->id == "openWater"; });
        const reading::Transect dry = reading::transectOf(*elements::freeze(p, store, job), grid);
        QVERIFY(dry.crest.empty() && dry.seesUnder == 0.f);
    }
};
QTEST_APPLESS_MAIN(TestReading)
#include "test_reading.moc"
