#include "base/random.h"
#include "media/curl.h"
#include "support.h"

#include <QTest>
#include <cmath>

using namespace hygros;

namespace {
media::Wind gale()
{
    media::Wind w;
    w.velocity = Vec3(8.f, 0.f, -6.f);
    w.roughness = 0.05f;
    w.gusts = 2.f;
    w.pattern = media::gustPattern(12.f, 5);
    return w;
}
} // namespace

class TestWind : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void theMeanFollowsTheLogarithmicLaw_data()
    {
        QTest::addColumn<double>("height");
        QTest::addColumn<double>("speed");
        // 10 m/s at 10 m over a roughness of 5 cm: 10 ln((h + 0.05)/0.05) / ln(10.05/0.05), worked out by hand.
        QTest::newRow("the ground") << 0.0 << 0.0;
        QTest::newRow("0.5 m") << 0.5 << 4.5214;
        QTest::newRow("2 m") << 2.0 << 7.0023;
        QTest::newRow("10 m") << 10.0 << 10.0;
        QTest::newRow("80 m") << 80.0 << 13.9129;
    }
    void theMeanFollowsTheLogarithmicLaw()
    {
        QFETCH(double, height);
        QFETCH(double, speed);
        QVERIFY(std::abs(double(gale().mean(static_cast<float>(height)).length()) - speed) < 2e-3);
    }

    void gustsHaveTheirStrengthAndNoMean()
    {
        const media::Wind w = gale();
        Random random(3);
        double sum[3] = {}, squares[3] = {};
        constexpr int count = 40000;
        for (int i = 0; i < count; ++i) {
            const Vec3 p(random.range(-2000, 2000), random.range(200, 2000), random.range(-2000, 2000));
            const Vec3 g = w.at(p) - w.mean(p.y);
            for (int axis = 0; axis < 3; ++axis) {
                sum[axis] += double(g[axis]);
                squares[axis] += double(g[axis]) * double(g[axis]);
            }
        }
        for (int axis = 0; axis < 3; ++axis) {
            const double deviation = std::sqrt(squares[axis] / count);
            QVERIFY2(std::abs(deviation / 2.0 - 1.0) < 0.02, qPrintable(QString::number(deviation)));
            QVERIFY(std::abs(sum[axis] / count) < 0.05);
        }
    }

    void airIsNeitherMadeNorLost()
    {
        const media::Wind w = gale();
        Random random(4);
        double divergence = 0, slope = 0;
        // Of differences over the same length as its own: they commute, so that nothing is left but rounding.
        const float e = 0.02f * w.pattern.scale;
        for (int i = 0; i < 2000; ++i) {
            const Vec3 p(random.range(-200, 200), random.range(2, 60), random.range(-200, 200));
            double d = 0;
            for (int axis = 0; axis < 3; ++axis) {
                Vec3 step(0.f);
                step[axis] = e;
                const double along = double((w.at(p + step) - w.at(p - step))[axis]) / (2.0 * double(e));
                d += along;
                slope += std::abs(along);
            }
            divergence += std::abs(d);
        }
        QVERIFY2(divergence < 0.02 * slope, qPrintable(QString::number(divergence / slope)));
    }

    void slopesOfNoiseAreWhatDifferencesSay_data()
    {
        QTest::addColumn<float>("warp");
        QTest::addColumn<float>("evolution");
        QTest::addColumn<float>("turned");
        QTest::newRow("plain") << 0.f << 0.f << 0.f;
        QTest::newRow("warped") << 1.3f << 0.f << 0.f;
        QTest::newRow("changing") << 0.f << 3.4f << 0.f;
        QTest::newRow("all of it, in a loop") << 0.7f << 2.6f << 0.3f;
    }
    void slopesOfNoiseAreWhatDifferencesSay()
    {
        QFETCH(float, warp);
        QFETCH(float, evolution);
        QFETCH(float, turned);
        media::Noise n;
        n.scale = 3.f;
        n.octaves = 4;
        n.lacunarity = 1.9f;
        n.gain = 0.6f;
        n.stretch = Vec3(2.f, 1.f, 0.5f);
        n.offset = Vec3(0.3f, -2.f, 7.f);
        n.warp = warp;
        n.evolution = evolution;
        n.loop = {Vec3(5.f, 0.f, -3.f), turned, 4};
        Random random(8);
        double off = 0.0, all = 0.0;
        const float e = 0.004f;
        for (int i = 0; i < 500; ++i) {
            F8 p[3];
            for (F8& v : p)
                for (int l = 0; l < lanes; ++l)
                    v[l] = random.range(-40.f, 40.f);
            F8 slope[3];
            const F8 value = media::octavesSlope8(n, p[0], p[1], p[2], slope),
                     same = media::octaves8(n, p[0], p[1], p[2]);
            for (int l = 0; l < lanes; ++l)
                QVERIFY(std::abs(value[l] - same[l]) < 1e-4f);
            for (int a = 0; a < 3; ++a) {
                F8 to[3] = {p[0], p[1], p[2]}, from[3] = {p[0], p[1], p[2]};
                to[a] += e;
                from[a] -= e;
                const F8 wanted = (media::octaves8(n, to[0], to[1], to[2]) -
                                   media::octaves8(n, from[0], from[1], from[2])) /
                                  (2.f * e);
                off += double(sum((slope[a] - wanted) * (slope[a] - wanted)));
                all += double(sum(wanted * wanted));
            }
        }
        QVERIFY2(std::sqrt(off / all) < 0.01, qPrintable(QString::number(std::sqrt(off / all))));
    }

    void nothingBlowsThroughTheGround()
    {
        media::Wind w = gale();
        w.ground = 3.f;
        Random random(5);
        for (int i = 0; i < 500; ++i)
            QVERIFY(std::abs(w.at(Vec3(random.range(-99, 99), 3.f, random.range(-99, 99))).y) < 0.12f);
    }
};
QTEST_APPLESS_MAIN(TestWind)
#include "test_wind.moc"
