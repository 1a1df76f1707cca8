/// Rain: its law, its drops one by one, and both together in the picture.
#include "elements/kinds.h"
#include "media/falling.h"
#include "media/medium.h"
#include "render/rain.h"
#include "render/still.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using media::Drop;
using media::Falling;
using render::RainPicture;
namespace law = media::rain;

namespace {
Falling one(float diameter, float number, float reach)
{
    Falling f;
    f.classes = {{diameter, number, law::speed(diameter * 1e3f), reach}};
    f.moments = {{0.0, Vec3(0.f), 1.f}};
    return f;
}
shot::Shot before(const Vec3& aim = Vec3(0.f, 50.f, -10.f))
{
    shot::Shot s;
    s.scene = test::emptyScene();
    s.camera.position = Vec3(0.f, 50.f, 0.f);
    s.camera.aim = aim;
    s.camera.focalMm = 36.f;
    return s;
}
scene::Project raining(double rate)
{
    scene::Project p = elements::newProject();
    p.find("shot")->set("position", Vec3(0.f, 50.f, 0.f));
    p.find("shot")->set("aim", Vec3(0.f, 50.f, -10.f));
    scene::Element& rain = p.add(*elements::findKind("rain"), "Rain");
    rain.set("rate", rate);
    rain.set("driftSpeed", 0.0);
    return p;
}
} // namespace

class TestRain : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
private Q_SLOTS:
    void dropsFallAsFastAsTheyWereMeasured()
    {
        for (const auto& [diameter, wanted] : {std::pair(1.f, 4.03f), {2.f, 6.49f}, {3.f, 8.06f}, {5.f, 9.09f}})
            NEAR(law::speed(diameter), wanted, 0.03);
        float before = 0.f;
        for (float d = 0.05f; d < 8.f; d += 0.05f) {
            QVERIFY(law::speed(d) >= before);
            before = law::speed(d);
        }
    }

    void sumsOverTheLawAreItsIntegrals()
    {
        for (const float rate : {0.5f, 5.f, 20.f, 100.f}) {
            double number = 0.0, extinction = 0.0;
            constexpr int n = 20000;
            const double l = 4.1 * std::pow(double(rate), -0.21), a = 0.1, b = 6.0, step = (b - a) / n;
            for (int i = 0; i < n; ++i) {
                const double d = a + (i + 0.5) * step, perVolume = 8000.0 * std::exp(-l * d) * step;
                number += perVolume;
                extinction += 2.0 * double(pi) / 4.0 * d * d * 1e-6 * perVolume;
            }
            // The water they would bring by the law alone is what it was fitted to as far as it fits; there are as many
            // more or less as bring the rate.
            float flux = 0.f;
            for (float d = 0.1f; d < 6.f; d += 0.01f)
                flux += 8000.f * std::exp(-law::slope(rate) * (d + 0.005f)) * 0.01f * pi / 6.f *
                        std::pow(d + 0.005f, 3.f) * law::speed(d + 0.005f) * 3.6e-3f;
            QVERIFY2(flux > 0.75f * rate && flux < 1.3f * rate, qPrintable(QString("%1 for %2").arg(flux).arg(rate)));
            NEAR(law::brings(rate), double(rate / flux), 5e-3);
            NEAR(law::numberBetween(rate, 0.1f, 6.f), number * double(rate / flux), 5e-3);
            NEAR(law::extinctionBetween(rate, 0.1f, 6.f), extinction * double(rate / flux), 5e-3);
        }
        QCOMPARE(law::extinctionBetween(0.f, 0.1f, 6.f), 0.f);
    }

    void sizesComeByTheLaw()
    {
        // χ² of the drops that a frozen rain has in a box, by their classes, against the formula between the classes'
        // ends: under 30.6 in 99 of 100 cases (15 degrees of freedom; how many there are is by chance as well).
        const auto shot = elements::freeze(raining(20.0), store_, job_);
        const Falling& f = shot->falling.at(0);
        QCOMPARE(f.classes.size(), std::size_t(15));
        const double ratio = std::pow(6.0 / 0.35, 1.0 / 15.0), volume = 16.0 * 16.0 * 16.0;
        double chi = 0.0, from = 0.35;
        for (std::size_t c = 0; c < f.classes.size(); ++c, from *= ratio) {
            std::vector<Drop> drops;
            media::dropsIn(f, c, 0, Vec3(-8.f, 42.f, -8.f), Vec3(8.f, 58.f, 8.f), drops);
            const double l = 4.1 * std::pow(20.0, -0.21), wanted = double(law::brings(20.f)) * volume * 8000.0 / l *
                                                                   (std::exp(-l * from) - std::exp(-l * from * ratio));
            for (const Drop& d : drops)
                QVERIFY(double(d.diameter) * 1e3 >= from && double(d.diameter) * 1e3 <= from * ratio);
            if (wanted > 5.0)
                chi += std::pow(double(drops.size()) - wanted, 2.0) / wanted;
        }
        QVERIFY2(chi < 30.6, qPrintable(QString::number(chi)));
    }

    void whatLandsOnATiltedBoardInWindIsWhatItShouldBe()
    {
        // A board of 16 m² that leans toward the wind, for three seconds of 40 mm/h: the drops that go through it, each
        // counted with its water, against R·cos + w·W·sin, W what a cubic metre of air holds, from the law.
        constexpr float rate = 40.f, wind = 7.f, lasts = 3.f;
        scene::Project p = raining(double(rate));
        p.find("rain")->set("driftSpeed", double(wind));
        p.find("rain")->set("driftHeading", 90.0); // toward +x
        const auto shot = elements::freeze(p, store_, job_);
        const Falling& f = shot->falling.at(0);
        NEAR(f.wind.x, wind, 1e-3);
        double water = 0.0; // kg a cubic metre of what is drawn; fine drops are a veil, which has their share
        for (float d = 0.1f; d < 6.f; d += 0.01f)
            water += 8000.0 * double(law::brings(rate)) * std::exp(-double(law::slope(rate)) * (double(d) + 0.005)) *
                     0.01 * 3.14159265 / 6.0 * std::pow(double(d) + 0.005, 3.0) * 1e-6;
        for (const double lean : {0.0, 35.0}) {
            const float c = std::cos(radians(lean)), s = std::sin(radians(lean));
            const Vec3 normal(-s, c, 0.f), u(c, s, 0.f), w(0.f, 0.f, 1.f), middle(0.f, 50.f, 0.f);
            double landed = 0.0; // kg
            for (std::size_t k = 0; k < f.classes.size(); ++k) {
                // Where those are that come to the board within the time.
                const Vec3 v(f.wind.x, -f.classes[k].speed, f.wind.z);
                Vec3 low(1e9f), high(-1e9f);
                for (const float a : {-2.f, 2.f})
                    for (const float b : {-2.f, 2.f})
                        for (const float t : {0.f, lasts}) {
                            const Vec3 at = middle + u * a + w * b - v * t;
                            for (int i = 0; i < 3; ++i) {
                                low[i] = std::min(low[i], at[i]);
                                high[i] = std::max(high[i], at[i]);
                            }
                        }
                std::vector<Drop> drops;
                media::dropsIn(f, k, 0, low, high, drops);
                for (const Drop& d : drops) {
                    const Vec3 off = d.at - middle;
                    const float t = -off.dot(normal) / v.dot(normal);
                    const Vec3 at = off + v * t;
                    if (t >= 0.f && t < lasts && std::abs(at.dot(u)) < 2.f && std::abs(at.dot(w)) < 2.f)
                        landed += 1000.0 * 3.14159265 / 6.0 * std::pow(double(d.diameter), 3.0);
                }
            }
            const double wish = (double(rate) / 3600.0 * double(c) + double(wind) * water * double(s)) * 16.0 *
                                double(lasts);
            QVERIFY2(std::abs(landed / wish - 1.0) < 0.05, qPrintable(QString("%1 for %2").arg(landed).arg(wish)));
        }
    }

    void dropsAreEvenlySpreadAndTheSameFromEverySide()
    {
        Falling f = one(1e-3f, 40.f, 10.f);
        std::vector<Drop> all, low, high;
        media::dropsIn(f, 0, 0, Vec3(-5.f), Vec3(5.f), all);
        NEAR(double(all.size()), 40e3, 0.02);
        media::dropsIn(f, 0, 0, Vec3(-5.f), Vec3(5.f, 0.3f, 5.f), low);
        media::dropsIn(f, 0, 0, Vec3(-5.f, 0.3f, -5.f), Vec3(5.f), high);
        QCOMPARE(low.size() + high.size(), all.size());
        // A moment later each is where it has fallen to, with the wind.
        f.wind = Vec3(2.f, 0.f, 0.f);
        Falling later = f;
        later.moments[0] = {123.4, Vec3(2.f * 123.4f, 0.f, 0.f), 1.f};
        Falling soon = f;
        soon.moments[0] = {123.5, Vec3(2.f * 123.5f, 0.f, 0.f), 1.f};
        std::vector<Drop> a, b;
        media::dropsIn(later, 0, 0, Vec3(-2.f), Vec3(2.f), a);
        media::dropsIn(soon, 0, 0, Vec3(-4.f), Vec3(4.f), b);
        QVERIFY(a.size() > 2000);
        const float fall = 0.1f * f.classes[0].speed;
        for (std::size_t i = 0; i < a.size(); i += 50) {
            const Vec3 wanted = a[i].at + Vec3(0.2f, -fall, 0.f);
            QVERIFY(std::any_of(b.begin(), b.end(), [&](const Drop& d) { return (d.at - wanted).length() < 2e-3f; }));
        }
        NEAR(a[0].velocity.y, -4.03, 0.03);
        // None under the ground or over the clouds.
        f.ground = 0.f;
        f.top = 1.f;
        all.clear();
        media::dropsIn(f, 0, 0, Vec3(-5.f), Vec3(5.f), all);
        NEAR(double(all.size()), 40.0 * 100.0, 0.05);
        for (const Drop& d : all)
            QVERIFY(d.at.y > 0.f && d.at.y < 1.f);
    }

    void aStreakIsAsLongAsItsWay()
    {
        for (const float shutter : {1.f / 50.f, 1.f / 500.f}) {
            shot::Shot s = before();
            Falling f = one(2e-3f, shutter < 0.01f ? 1.f : 0.1f, 12.f);
            f.blur = shutter;
            s.falling = {f};
            constexpr int w = 1600, h = 900;
            const geometry::View view(s.camera, w, h);
            // A drop that lies alone in the middle of the picture.
            std::vector<Drop> drops;
            media::dropsIn(f, 0, 0, Vec3(-16.f, 34.f, -16.f), Vec3(16.f, 66.f, 0.f), drops);
            const RainPicture picture(s, w, h);
            int measured = 0;
            for (const Drop& d : drops) {
                Vec2 at(0.f), end(0.f);
                float depth = 0.f, unused = 0.f;
                view.project(d.at, at, depth);
                view.project(d.at + d.velocity * shutter, end, unused);
                const float length = (end - at).length();
                if ((d.at - s.camera.position).length() > 10.f || at.x < 60.f || at.x > w - 60.f || at.y < 300.f ||
                    at.y > h - 300.f || length < 4.f)
                    continue;
                const bool alone = std::none_of(drops.begin(), drops.end(), [&](const Drop& o) {
                    Vec2 other(0.f);
                    return &o != &d && view.project(o.at, other, unused) && std::abs(other.x - at.x) < 10.f &&
                           std::abs(other.y - at.y) < 2.f * length + 30.f;
                });
                if (!alone)
                    continue;
                // Along its column: what it takes, over what it takes in its middle, is its length.
                double sum = 0.0, middle = 0.0;
                for (int y = int(at.y - 0.5f * length) - 8; y <= int(at.y + 0.5f * length) + 8; ++y)
                    for (int x = int(at.x) - 6; x <= int(at.x) + 6; ++x) {
                        const double takes = -std::log(double(picture.transmittance(x, y)));
                        sum += takes;
                        middle += std::abs(float(y) + 0.5f - at.y) < 2.f ? takes / 4.0 : 0.0;
                    }
                const double radius = std::max(0.6, 1e-3 / double(depth * view.pixelAngle()));
                // With its round ends.
                NEAR(sum / middle, double(length) + 0.5 * double(pi) * radius, length > 20.f ? 0.03 : 0.08);
                // What it takes is twice its section, however long it is.
                NEAR(sum, 2.0 * double(pi) * std::pow(1e-3 / double(depth * view.pixelAngle()), 2.0), 0.04);
                ++measured;
            }
            QVERIFY2(measured > 1, qPrintable(QString::number(measured)));
        }
    }

    void drawnAndVeiledTakeWhatTheLawSays()
    {
        // 20 mm/h, by rays from the eye to 50, 200 and 800 m: the veil's closed form and what drops cover.
        const scene::Project p = raining(20.0);
        const auto shot = elements::freeze(p, store_, job_);
        QVERIFY(shot->falling.size() == 1 && shot->media.size() >= 3);
        constexpr int w = 480, h = 270;
        const RainPicture picture(*shot, w, h);
        QVERIFY2(picture.drops() > 15000, qPrintable(QString::number(picture.drops())));
        double covered = 0.0;
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                covered -= std::log(double(picture.transmittance(x, y)));
        covered /= w * h;
        for (const float distance : {50.f, 200.f, 800.f}) {
            double veil = 0.0;
            for (const media::Medium& m : shot->media)
                veil += double(media::opticalDepth(m, shot->camera.position, Vec3(0.f, 0.f, -1.f), 0.f, distance));
            const double wanted = double(law::extinctionBetween(20.f, law::smallest, law::largest)) * double(distance);
            // As a transmittance, which is what is seen.
            NEAR(std::exp(-(veil + covered)), std::exp(-wanted), 0.02);
        }
        // What is drawn is a part that can be seen, and no more than was asked for.
        QVERIFY(covered > 0.003);
        QVERIFY(picture.drops() < 60000);
        scene::Project none = p;
        none.find("rain")->set("drawn", std::int64_t(0));
        const auto veiled = elements::freeze(none, store_, job_);
        QCOMPARE(RainPicture(*veiled, w, h).drops(), std::size_t(0));
        double all = 0.0;
        for (const media::Medium& m : veiled->media)
            all += double(media::opticalDepth(m, veiled->camera.position, Vec3(0.f, 0.f, -1.f), 0.f, 50.f));
        NEAR(all, double(law::extinctionBetween(20.f, law::smallest, law::largest)) * 50.0, 1e-4);
    }

    void aBlurredFrameIsTheMeanOfMany()
    {
        shot::Shot s = before();
        Falling f = one(3e-3f, 2.f, 8.f);
        f.blur = 1.f / 50.f;
        s.falling = {f};
        constexpr int w = 240, h = 135, pieces = 16;
        const RainPicture blurred(s, w, h);
        std::vector<double> mean(std::size_t(w * h), 0.0);
        for (int i = 0; i < pieces; ++i) {
            shot::Shot then = s;
            then.falling[0].blur = f.blur / pieces;
            then.falling[0].moments[0].seconds = ((i + 0.5) / pieces - 0.5) * double(f.blur);
            const RainPicture sharp(then, w, h);
            for (int y = 0; y < h; ++y)
                for (int x = 0; x < w; ++x)
                    mean[std::size_t(y * w + x)] -= std::log(double(sharp.transmittance(x, y))) / pieces;
        }
        double apart = 0.0, sum = 0.0, other = 0.0;
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x) {
                const double takes = -std::log(double(blurred.transmittance(x, y)));
                sum += mean[std::size_t(y * w + x)];
                other += takes;
                apart += std::abs(takes - mean[std::size_t(y * w + x)]);
            }
        NEAR(other, sum, 0.03);
        QVERIFY2(apart < 0.25 * sum, qPrintable(QString("%1 of %2").arg(apart).arg(sum)));
    }

    void nothingFallsUnderARoofOrBehindAWall()
    {
        shot::Shot s = before(Vec3(0.f, 50.f, -10.f));
        s.camera.position = Vec3(0.f, 1.f, 0.f);
        s.camera.aim = Vec3(0.f, 1.f, -10.f);
        Falling f = one(2e-3f, 60.f, 8.f);
        s.falling = {f};
        const std::size_t open = RainPicture(s, 320, 180).drops();
        QVERIFY(open > 500);
        s.scene = test::plate(6.f, 40.f); // over everything in reach
        QCOMPARE(RainPicture(s, 320, 180).drops(), std::size_t(0));
        s.scene = test::plate(-3.f, 40.f); // a floor below
        QVERIFY(RainPicture(s, 320, 180).drops() > open / 2);
    }

    void theLoopCloses()
    {
        scene::Project p = raining(20.0);
        p.time.loop = 4.0;
        p.find("rain")->set("driftSpeed", 3.0);
        const auto at = [&](int frame) {
            scene::Project now = p;
            now.frame = frame;
            return RainPicture(*elements::freeze(now, store_, job_), 240, 135);
        };
        const RainPicture first = at(1), again = at(101), half = at(51);
        double apart = 0.0, other = 0.0, sum = 0.0;
        for (int y = 0; y < 135; ++y)
            for (int x = 0; x < 240; ++x) {
                apart += std::abs(double(first.transmittance(x, y) - again.transmittance(x, y)));
                other += std::abs(double(first.transmittance(x, y) - half.transmittance(x, y)));
                sum += double(half.transmittance(x, y));
            }
        QVERIFY2(apart < 1e-3 * other, qPrintable(QString("%1 of %2").arg(apart).arg(other)));
        // And half way through there are as many.
        NEAR(double(half.drops()), double(first.drops()), 0.05);
    }

    void dropsHoldTheWorldAndAreALayer()
    {
        // Before a grey world a drop is grey: it gives what it takes, but for the sky's part of it.
        shot::Shot s = before();
        s.falling = {one(4e-3f, 20.f, 6.f)};
        constexpr int w = 160, h = 90;
        const RainPicture picture(s, w, h);
        std::vector<float> rgb(std::size_t(w * h) * 3, 2.f);
        picture.addTo(rgb);
        float least = 2.f, most = 2.f;
        for (const float v : rgb) {
            least = std::min(least, v);
            most = std::max(most, v);
        }
        QVERIFY2(most <= 2.0001f && least > 1.4f && least < 1.999f, qPrintable(QString("%1…%2").arg(least).arg(most)));
        // A lamp behind it lights it up.
        light::Lamp lamp;
        lamp.id = "lamp";
        lamp.shape = light::Lamp::Shape::Sphere;
        lamp.position = Vec3(0.f, 50.f, -12.f);
        lamp.intensity = Vec3(4000.f);
        s.lamps = {lamp};
        std::vector<float> lit(std::size_t(w * h) * 3, 2.f);
        RainPicture(s, w, h).addTo(lit);
        QVERIFY(*std::max_element(lit.begin(), lit.end()) > 2.5f);
        // As layers it makes up the same picture.
        render::Layers layers;
        layers.width = w;
        layers.height = h;
        layers.plate.assign(std::size_t(w * h) * 3, 2.f);
        layers.transmittance.assign(std::size_t(w * h) * 3, 1.f);
        layers.air.assign(std::size_t(w * h) * 3, 0.f);
        RainPicture(s, w, h).addTo(layers);
        QCOMPARE(layers.airBy.back().id, std::string("rain"));
        for (std::size_t i = 0; i < lit.size(); ++i)
            QVERIFY(std::abs(layers.plate[i] * layers.transmittance[i] + layers.air[i] - lit[i]) < 1e-4f * lit[i]);
    }

    void snowFallsByItsOwnLaw()
    {
        namespace snow = media::snow;
        // Gunn & Marshall 1958 at 1 mm/h of water; the mass that their law holds, at 1 m/s, is the rate within a
        // factor.
        NEAR(snow::slope(1.f), 2.55, 1e-4);
        NEAR(snow::perVolume(1.f), 3800.0, 1e-4);
        double number = 0.0, extinction = 0.0;
        for (int i = 0; i < 20000; ++i) {
            const double d = 0.3 + (i + 0.5) * 5.7 / 20000;
            const double each = 3800.0 * std::exp(-2.55 * d) * 5.7 / 20000;
            number += each;
            extinction += each * 0.5 * double(pi) * std::pow(d / std::cbrt(0.1), 2.0) * 1e-6;
        }
        NEAR(snow::numberBetween(1.f, 0.3f, 6.f), number, 1e-3);
        NEAR(snow::extinctionBetween(1.f, 0.3f, 6.f, 0.1f), extinction, 1e-3);

        scene::Project p = elements::newProject();
        p.find("shot")->set("position", Vec3(0.f, 50.f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, 50.f, -10.f));
        scene::Element& fall = p.add(*elements::findKind("snow"), "Snow");
        const auto speedAt = [&](double kelvin) {
            fall.set("temperature", kelvin);
            const auto shot = elements::freeze(p, store_, job_);
            return double(shot->falling.at(0).classes.at(5).speed);
        };
        QVERIFY(speedAt(273.5) > 1.1 && speedAt(273.5) < 1.7);
        QVERIFY(speedAt(250.0) > 0.45 && speedAt(250.0) < 0.8);
        // More of it hides more; drawn and veiled flakes hide what the law says.
        const auto through = [&](double rate, float distance) {
            fall.set("rate", rate);
            const auto shot = elements::freeze(p, store_, job_);
            double depth = 0.0;
            for (const media::Medium& m : shot->media)
                depth += double(media::opticalDepth(m, shot->camera.position, Vec3(0.f, 0.f, -1.f), 0.f, distance));
            const RainPicture picture(*shot, 320, 180);
            double covered = 0.0;
            for (int y = 0; y < 180; ++y)
                for (int x = 0; x < 320; ++x)
                    covered -= std::log(double(picture.transmittance(x, y)));
            const double wanted = elements::kindOf(fall).extinction(fall) * double(distance),
                         found = depth + covered / (320 * 180);
            [&] { NEAR(std::exp(-found), std::exp(-wanted), 0.03); }();
            return std::exp(-found);
        };
        QVERIFY(through(5.0, 150.f) < through(0.5, 150.f));
        // Flakes flutter about their fall.
        fall.set("rate", 2.0);
        const auto shot = elements::freeze(p, store_, job_);
        std::vector<Drop> flakes;
        media::dropsIn(shot->falling[0], 7, 0, Vec3(-3.f, 47.f, -3.f), Vec3(3.f, 53.f, 3.f), flakes);
        QVERIFY(flakes.size() > 20);
        double sway = 0.0, down = 0.0;
        for (const Drop& d : flakes) {
            sway += double(std::abs(d.velocity.x - shot->falling[0].wind.x));
            down -= double(d.velocity.y);
        }
        QVERIFY(sway / double(flakes.size()) > 0.1);
        NEAR(down / double(flakes.size()), double(shot->falling[0].classes[7].speed), 1e-3);
    }

    void rainThatIsNoneOrTooMuchIsAnswered()
    {
        const auto says = [&](const scene::Project& p, const std::string& words) {
            const auto shot = elements::freeze(p, store_, job_);
            return std::any_of(shot->notes.begin(), shot->notes.end(),
                               [&](const shot::Note& n) { return n.text.find(words) != std::string::npos; });
        };
        QVERIFY(says(raining(0.0), "nothing falls"));
        QVERIFY(elements::freeze(raining(0.0), store_, job_)->falling.empty());
        QVERIFY(says(raining(20.0), "one sees 1.4"));
        // The most there can be: bounded, and done.
        scene::Project most = raining(500.0);
        most.find("rain")->set("driftSpeed", 100.0);
        most.find("rain")->set("drawn", std::int64_t(200000));
        const RainPicture picture(*elements::freeze(most, store_, job_), 320, 180);
        QVERIFY(picture.drops() > 50000 && picture.drops() <= 400000);
        // A wind carries it.
        scene::Project blown = raining(20.0);
        scene::Element& wind = blown.add(*elements::findKind("wind"), "Wind");
        wind.set("speed", 8.0);
        wind.set("heading", 90.0);
        wind.set("reference", 50.0);
        blown.find("rain")->set("wind", std::string("wind"));
        const auto shot = elements::freeze(blown, store_, job_);
        NEAR(shot->falling[0].wind.x, 8.0, 0.01);
        QVERIFY(std::abs(shot->falling[0].wind.z) < 1e-3f);
    }
};
QTEST_GUILESS_MAIN(TestRain)
#include "test_rain.moc"
