/// Scopes against pictures whose tones are known.
#include "reading/scopes.h"

#include "base/random.h"
#include "support.h"

#include <numeric>

using namespace hygros;
using namespace hygros::test;
using reading::Region;
using reading::Scopes;

class TestScopes : public QObject {
    Q_OBJECT
    struct Made {
        int width, height;
        std::vector<float> rgb, depth;
        std::vector<std::uint8_t> shown;
        Scopes scopes(const Region& region = {}) const
        {
            return reading::scopesOf({width, height, rgb, depth}, shown, region);
        }
    };
    /// The left half dark and near, the right half bright and far; the top row is sky.
    static Made halves(int width = 96, int height = 50)
    {
        Made m{width, height, {}, {}, {}};
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x) {
                const bool left = x < width / 2;
                const float v = left ? 0.045f : 0.72f; // two stops under 0.18 and two over it
                m.rgb.insert(m.rgb.end(), {v, v, v});
                m.depth.push_back(y == 0 ? 30000.f : left ? 8.f : 800.f);
                const std::uint8_t s = left ? 60 : 255;
                m.shown.insert(m.shown.end(), {static_cast<std::uint8_t>(left ? 0 : 10), s, s, 255});
            }
        return m;
    }
    static double sum(const std::vector<float>& v) { return std::accumulate(v.begin(), v.end(), 0.0); }

private Q_SLOTS:
    void aPictureFromAnywhereHasTonesAndNoDistances()
    {
        Made m = halves();
        const Scopes whole = m.scopes();
        m.rgb.clear(), m.depth.clear();
        const Scopes shown = m.scopes();
        QCOMPARE(shown.pixels, whole.pixels);
        QVERIFY(shown.waveform == whole.waveform && shown.histogram == whole.histogram);
        QCOMPARE(shown.black, whole.black);
        QVERIFY(shown.meanTone.empty() && sum(shown.byDistance) == 0.0);
        m.rgb.resize(3); // half known is refused
        QCOMPARE(m.scopes().pixels, std::size_t(0));
    }

    void sharesAddUp()
    {
        const Made m = halves();
        const Scopes s = m.scopes();
        QCOMPARE(s.pixels, std::size_t(96 * 50));
        for (std::size_t c = 0; c < 3; ++c) {
            NEAR(sum(s.histogram[c]), 1.0, 1e-4);
            // Each column of the waveform holds all of its pixels; half of them lie between two of the picture's.
            NEAR(sum(s.waveform[c]), 96.0, 1e-3);
        }
        NEAR(sum(s.byDistance), 1.0, 1e-4);
    }
    void tonesLieWhereTheyAre()
    {
        const Scopes s = halves().scopes();
        // Red and green are alike, blue is its own.
        NEAR(s.histogram[0][30], 0.5, 1e-4);
        NEAR(s.histogram[1][127], 0.5, 1e-4);
        NEAR(s.histogram[2][0], 0.5, 1e-4);
        NEAR(s.histogram[2][5], 0.5, 1e-4);
        NEAR(s.black, 0.5, 1e-4);
        NEAR(s.white, 0.5, 1e-4);
        NEAR(s.lowStop, -2.0, 1e-3);
        NEAR(s.highStop, 2.0, 1e-3);
        // Dark at the left of the waveform, bright at its right.
        const auto at = [&](int level, int column) {
            return s.waveform[0][std::size_t(level) * Scopes::columns + std::size_t(column)];
        };
        QCOMPARE(at(30, 0), 1.f);
        QCOMPARE(at(127, 0), 0.f);
        QCOMPARE(at(127, 190), 1.f);
    }
    void tonesByDistance()
    {
        const Scopes s = halves().scopes();
        const auto near = static_cast<std::size_t>(reading::distanceBin(8.f, 29000.f)),
                   far = static_cast<std::size_t>(reading::distanceBin(800.f, 29000.f));
        NEAR(s.meanTone[near], -2.0, 1e-3);
        NEAR(s.meanTone[far], 2.0, 1e-3);
        QVERIFY(s.meanTone[near + 5] < -1e8f);
        // The sky's column holds a row of each half.
        double sky = 0.0;
        for (int t = 0; t < Scopes::tones; ++t)
            sky += double(s.byDistance[std::size_t(t) * Scopes::distances + Scopes::distances - 1]);
        NEAR(sky, 1.0 / 50.0, 1e-3);
        NEAR(s.meanTone.back(), 0.0, 1e-3);
    }
    void distancesAreByFactors()
    {
        QCOMPARE(reading::distanceBin(0.1f, 29000.f), 0);
        QCOMPARE(reading::distanceBin(0.5f, 29000.f), 0);
        QCOMPARE(reading::distanceBin(29000.f, 29000.f), Scopes::distances - 1);
        QCOMPARE(reading::distanceBin(28999.f, 29000.f), Scopes::distances - 2);
        const int a = reading::distanceBin(2.f, 29000.f), b = reading::distanceBin(20.f, 29000.f),
                  c = reading::distanceBin(200.f, 29000.f);
        QVERIFY(std::abs((b - a) - (c - b)) <= 1);
    }
    void aRegionAlone()
    {
        const Made m = halves();
        const Scopes left = m.scopes({0.f, 0.1f, 0.4f, 1.f}), right = m.scopes({0.6f, 0.1f, 1.f, 1.f});
        NEAR(left.highStop, -2.0, 1e-3);
        NEAR(right.lowStop, 2.0, 1e-3);
        QCOMPARE(left.black, 1.f);
        QCOMPARE(right.white, 1.f);
        // One pixel is a region too, and what lies outside is brought inside.
        QCOMPARE(m.scopes({0.2f, 0.2f, 0.2f, 0.2f}).pixels, std::size_t(1));
        QCOMPARE(m.scopes({-3.f, -3.f, 9.f, 9.f}).pixels, std::size_t(96 * 50));
    }
    void brokenPicturesAreNone()
    {
        Made m = halves();
        m.depth.resize(10);
        QCOMPARE(m.scopes().pixels, std::size_t(0));
        Made odd = halves();
        for (std::size_t i = 0; i < odd.rgb.size(); i += 7)
            odd.rgb[i] = i % 2 ? std::numeric_limits<float>::quiet_NaN() : -5.f;
        const Scopes s = odd.scopes();
        QCOMPARE(s.pixels, std::size_t(96 * 50));
        NEAR(sum(s.byDistance), 1.0, 1e-3);
    }
};

QTEST_GUILESS_MAIN(TestScopes)
#include "test_scopes.moc"
