/// What bodies say to both integrators, against closed forms: the same matter must be the same for rays of the live
/// picture, for flights of the reference, for shadows, and for the air beside it.
#include "media/deck_diffusion.h"
#include "media/volume_tree.h"
#include "render/air_kernel.h"
#include "render/bodies.h"
#include "render/volume_light.h"
#include "support.h"

using namespace hygros;
using render::Body;
using shot::Shot;

namespace {
/// An even block of n voxels a side, or half of it.
std::shared_ptr<const media::BrickGrid> block(int n, bool half = false)
{
    const int side = n / 8;
    static const std::vector<float> full(512, 1.f);
    std::vector<media::BrickGrid::Block> blocks;
    for (int b = 0; b < side * side * side; ++b)
        if (!half || b / side / side < side / 2)
            blocks.push_back({b / side / side, b / side % side, b % side, full.data(), 0.f});
    JobControl job;
    return media::BrickGrid::fromBlocks(blocks, job);
}
/// 8 m a side, of 32 voxels, its low corner at (x, 0, z).
media::Volume cube(float x, float z, float sigma, float albedo = 0.5f)
{
    media::Volume v;
    v.id = "cube";
    v.density = block(32);
    v.sigmaT = sigma;
    v.albedo = Vec3(albedo);
    Mat4 place, move;
    place.setScale(Vec3(0.25f));
    move.setTranslation(Vec3(x, 0.f, z));
    v.place(place * move);
    return v;
}
std::shared_ptr<Shot> shotOf(std::vector<media::Volume> volumes, double elevation = 90.0)
{
    auto s = std::make_shared<Shot>();
    s->scene = test::emptyScene();
    light::SkySettings sky;
    sky.elevation = radians(elevation);
    s->sky = std::make_shared<light::Sky>(sky);
    s->sunId = "sun";
    for (media::Volume& v : volumes)
        v.shadow = std::make_shared<media::VolumeShadow>(v, s->sky->sunDirection());
    s->volumes = std::move(volumes);
    s->camera = {Vec3(4, 4, 40), Vec3(4, 4, 0), 50.f, 36.f};
    return s;
}
/// Eight rays along −Z through the middle of a cube at z 0…8, from `z`.
media::Ray8 raysFrom(float z, float x = 4.f)
{
    media::Ray8 r{f8(x), f8(4.f), f8(z), f8(0.f), f8(0.f), f8(-1.f)};
    for (int i = 0; i < lanes; ++i)
        r.oy[i] += 0.3f * static_cast<float>(i - 3);
    return r;
}
F8 even() { return F8{0.06f, 0.19f, 0.31f, 0.44f, 0.56f, 0.69f, 0.81f, 0.94f}; }
double mean(F8 v) { return double(sum(v)) / lanes; }
/// A chord through the middle [m].
constexpr float side = 8.f;
} // namespace

class TestBodies : public QObject {
    Q_OBJECT
    std::shared_ptr<Body> begun(const std::shared_ptr<Shot>& shot)
    {
        auto body = render::volumeBody(*shot);
        body->begin(shot, shot->camera.position, nullptr);
        return body;
    }

private Q_SLOTS:
    void aShotWithoutThemHasNone()
    {
        const auto s = shotOf({});
        QVERIFY(!render::volumeBody(*s));
        QVERIFY(!render::deckBody(*s));
        QVERIFY(render::bodiesOf(*s).empty());
        const auto two = shotOf({cube(0, 0, 0.1f), cube(20, 0, 0.1f)});
        const auto list = render::bodiesOf(*two);
        QCOMPARE(list.size(), std::size_t{1});
        QCOMPARE(list[0]->count(), std::size_t{2});
        QCOMPARE(list[0]->id(1), std::string("cube"));
        QVERIFY(!list[0]->isLevel());
        QVERIFY(!list[0]->isColoured());
    }

    void whatComesThroughIsTheSameForAllWhoAsk_data()
    {
        QTest::addColumn<float>("sigma");
        QTest::newRow("thin") << 0.02f;
        QTest::newRow("half") << 0.09f;
        QTest::newRow("thick") << 0.5f;
    }
    void whatComesThroughIsTheSameForAllWhoAsk()
    {
        QFETCH(float, sigma);
        const auto shot = shotOf({cube(0, 0, sigma)});
        const auto body = begun(shot);
        const render::AirModel air(*shot);
        const double wanted = std::exp(-double(sigma) * double(side));
        // Rays of the live picture: slabs multiply.
        Body::Seen8 seen[render::mostSlabs];
        body->look(air, raysFrom(30.f), f8(1e4f), even(), false, seen);
        F8 left = f8(1.f);
        for (int s = 0; s < body->slabs(); ++s)
            left = left * seen[s].through[1];
        for (int i = 0; i < lanes; ++i)
            QVERIFY2(std::abs(double(left[i]) - wanted) < 0.02 * wanted + 2e-3,
                     qPrintable(QString("%1, wanted %2").arg(double(left[i])).arg(wanted)));
        // Ways in the air.
        NEAR(mean(body->depthOn(raysFrom(30.f), f8(100.f), nullptr)), sigma * side, 0.03);
        // The reference: flights that collide, and what is left without a collision.
        Random random(3);
        int collided = 0;
        double through = 0.0, place = 0.0;
        constexpr int n = 40000;
        const Vec3 o(4.f, 4.f, 30.f), d(0, 0, -1), weight(1.f);
        for (int i = 0; i < n; ++i) {
            std::vector<media::NullCollision> nulls;
            Body::Collision nearest{1e4f, 0, Vec3(1.f)};
            if (body->collide({o, d, weight, random, nulls}, nearest)) {
                ++collided;
                place += static_cast<double>(nearest.t);
                QVERIFY(nearest.t > 21.5f && nearest.t < 30.5f);
            }
            Vec3 one(1.f);
            body->through(o, d, 1e4f, false, random, one);
            through += static_cast<double>(one.y) / n;
        }
        const double error = 4.0 * std::sqrt(wanted * (1.0 - wanted) / n) + 0.01 * wanted;
        QVERIFY2(std::abs(1.0 - double(collided) / n - wanted) < error, qPrintable(QString::number(collided)));
        QVERIFY2(std::abs(through - wanted) < error, qPrintable(QString::number(through)));
        // A voxel's value stands at its low corner, its faces half a voxel lower. Where they are met in the mean: 1/σ −
        // L e^(−σL) / (1 − e^(−σL)) from the near face.
        const double deep = 1.0 / double(sigma) - double(side) * wanted / (1.0 - wanted);
        NEAR(place / collided - 22.125, deep, 0.03);
    }

    void aWayThatEndsInsideCountsToItsEnd()
    {
        const auto shot = shotOf({cube(0, 0, 0.2f)});
        const auto body = begun(shot);
        const render::AirModel air(*shot);
        Body::Seen8 seen[render::mostSlabs];
        body->look(air, raysFrom(30.f), f8(25.f), even(), false, seen); // three metres of eight
        F8 left = f8(1.f);
        for (int s = 0; s < body->slabs(); ++s)
            left = left * seen[s].through[0];
        NEAR(mean(left), std::exp(-0.2 * 2.875), 0.02);
        NEAR(mean(body->depthOn(raysFrom(30.f), f8(25.f), nullptr)), 0.575, 0.04);
        Random random(5);
        double through = 0.0;
        for (int i = 0; i < 20000; ++i) {
            Vec3 one(1.f);
            body->through(Vec3(4, 4, 30), Vec3(0, 0, -1), 25.f, false, random, one);
            through += static_cast<double>(one.x) / 20000.0;
        }
        NEAR(through, std::exp(-0.575), 0.02);
        // One that goes by meets nothing.
        Body::Seen8 nothing[render::mostSlabs];
        body->look(air, raysFrom(30.f, 20.f), f8(1e4f), even(), false, nothing);
        QCOMPARE(mean(nothing[0].through[0]), 1.0);
        QCOMPARE(mean(body->depthOn(raysFrom(30.f, 20.f), f8(1e4f), nullptr)), 0.0);
    }

    void slabsLieOneBehindTheOther()
    {
        const auto shot = shotOf({cube(0, 0, 0.05f), cube(0, -30, 0.1f)});
        const auto body = begun(shot);
        const render::AirModel air(*shot);
        QVERIFY(body->slabs() > 2 && body->slabs() <= render::mostSlabs);
        Body::Seen8 seen[render::mostSlabs];
        body->look(air, raysFrom(30.f), f8(1e4f), even(), false, seen);
        double left = 1.0, before = 0.0;
        int met = 0;
        for (int s = 0; s < body->slabs(); ++s) {
            const double t = mean(seen[s].through[0]);
            left *= t;
            if (t > 0.999)
                continue; // between the two
            ++met;
            const double at = mean(seen[s].distance);
            QVERIFY2(at > before, qPrintable(QString("slab %1 at %2").arg(s).arg(at)));
            // In one of the two: 22…30 m and 52…60 m from where the rays begin.
            QVERIFY2((at > 21.0 && at < 31.0) || (at > 51.0 && at < 61.0), qPrintable(QString::number(at)));
            before = at;
        }
        QVERIFY(met >= 2);
        NEAR(left, std::exp(-8.0 * 0.15), 0.02);
    }

    void theDialOfTheShadowIsForShadowsAlone()
    {
        auto one = cube(0, 0, 0.1f);
        one.shadowShare = 0.25f;
        const auto shot = shotOf({one});
        const auto body = begun(shot);
        const render::AirModel air(*shot);
        Random random(7);
        double seenThrough = 0.0, shadow = 0.0;
        for (int i = 0; i < 20000; ++i) {
            Vec3 a(1.f), b(1.f);
            body->through(Vec3(4, 4, 30), Vec3(0, 0, -1), 1e4f, false, random, a);
            body->through(Vec3(4, 4, 30), Vec3(0, 0, -1), 1e4f, true, random, b);
            seenThrough += static_cast<double>(a.x) / 20000.0;
            shadow += static_cast<double>(b.x) / 20000.0;
        }
        NEAR(seenThrough, std::exp(-0.8), 0.02);
        NEAR(shadow, std::exp(-0.2), 0.02);
        NEAR(mean(body->depthOn(raysFrom(30.f), f8(100.f), nullptr)), 0.2, 0.03);
        Body::Seen8 seen[render::mostSlabs];
        body->look(air, raysFrom(30.f), f8(1e4f), even(), false, seen);
        NEAR(mean(seen[0].through[0]) * mean(seen[1].through[0]), std::exp(-0.8), 0.02);
    }

    void theAirUnderItIsShadedByItsColumn()
    {
        // The sun stands overhead: a metre of height is a metre of the way.
        const auto shot = shotOf({cube(0, 0, 0.1f, 0.2f)});
        const auto body = begun(shot);
        const auto shadeAt = [&](const Vec3& p) {
            Body::Shade shade;
            Body::Kept none(nullptr);
            body->shade(f8(p.x), f8(p.y), f8(p.z), none, shade);
            return shade;
        };
        const Body::Shade under = shadeAt(Vec3(4, -1, 4)), middle = shadeAt(Vec3(4, 4, 4)),
                          over = shadeAt(Vec3(4, 9, 4)), beside = shadeAt(Vec3(14, 2, 4));
        NEAR(mean(under.beside), 0.8, 0.05);
        NEAR(mean(middle.beside), 0.4, 0.12);
        QVERIFY(mean(over.beside) < 0.02);
        QCOMPARE(mean(beside.beside), 0.0);
        // Even scattering turns all of it from its way.
        NEAR(mean(under.aside), mean(under.beside), 1e-3);
        QCOMPARE(mean(under.level), 0.0); // that is for layers
        // What it swallows all around is inside it alone: the mean chord of a cube is two thirds of its side (here of
        // its bounds, which go by whole bricks).
        const Box3& bounds = shot->volumes[0].bounds;
        NEAR(mean(middle.within), 0.1 * 0.8 * double(bounds.max.x - bounds.min.x) * 2.0 / 3.0, 0.02);
        QCOMPARE(mean(under.within), 0.0);
        QCOMPARE(mean(beside.within), 0.0);
        // White matter swallows nothing.
        const auto white = shotOf({cube(0, 0, 0.1f, 1.f)});
        const auto cloud = begun(white);
        Body::Shade shade;
        Body::Kept none(nullptr);
        cloud->shade(f8(4.f), f8(4.f), f8(4.f), none, shade);
        QCOMPARE(mean(shade.within), 0.0);
    }

    void whatIsKeptOfAPlaceServesOtherDensities()
    {
        // The same matter denser and darker: places looked up before say what they would say anew.
        auto thin = shotOf({cube(0, 0, 0.05f, 0.4f), cube(10, 0, 0.1f, 1.f)}, 60.0);
        auto dense = std::make_shared<Shot>(*thin);
        dense->volumes[0].sigmaT = 0.2f;
        const auto a = begun(thin), b = begun(dense);
        QCOMPARE(a->keptCount(), b->keptCount());
        std::vector<float> room(a->keptCount() * lanes, Body::Kept::unkept);
        const F8 x{1.f, 3.f, 4.f, 5.f, 7.f, 9.f, 12.f, 15.f}, y{0.5f, 1.f, 2.f, 3.f, 4.f, 5.f, 6.f, 7.f}, z = f8(4.f);
        Body::Shade first, kept, anew;
        Body::Kept one(room.data());
        a->shade(x, y, z, one, first);
        for (const float v : room)
            QVERIFY(v != Body::Kept::unkept); // all of it has its place
        Body::Kept two(room.data());
        b->shade(x, y, z, two, kept);
        Body::Kept none(nullptr);
        b->shade(x, y, z, none, anew);
        for (int i = 0; i < lanes; ++i) {
            NEAR(kept.beside[i], anew.beside[i], 1e-5);
            NEAR(kept.within[i], anew.within[i], 1e-5);
        }
        QVERIFY(mean(kept.beside) > 1.5 * mean(first.beside));
        std::vector<std::shared_ptr<const void>> sourcesA, sourcesB;
        a->sources(sourcesA);
        b->sources(sourcesB);
        QVERIFY(sourcesA == sourcesB);
    }

    void lampsAreDimmedByWhatDoesNotStandForThem()
    {
        // A lamp's light on its way loses what is swallowed and turned: half of the extinction at albedo 0.5, g 1.
        auto forward = cube(0, 0, 0.1f, 0.5f);
        forward.phase.g = 0.9f;
        const auto shot = shotOf({forward});
        const auto body = begun(shot);
        light::Lamp lamp;
        NEAR(mean(body->depthOn(raysFrom(30.f), f8(100.f), &lamp)), 0.8 * (1.0 - 0.5 * 0.9), 0.03);
        lamp.ofBody = 0; // it is the glow of this very cube
        QCOMPARE(mean(body->depthOn(raysFrom(30.f), f8(100.f), &lamp)), 0.0);
    }

    void coloursAreToldByChannel()
    {
        auto red = cube(0, 0, 0.1f);
        red.spectrum = Vec3(0.5f, 1.f, 2.f);
        const auto shot = shotOf({red});
        const auto body = begun(shot);
        QVERIFY(body->isColoured());
        const render::AirModel air(*shot);
        Body::Seen8 seen[render::mostSlabs];
        body->look(air, raysFrom(30.f), f8(1e4f), even(), false, seen);
        const media::Optics optics = body->opticsAt(0, Vec3(4, 4, 4));
        Random random(11);
        Vec3 through(0.f);
        for (int i = 0; i < 40000; ++i) {
            Vec3 one(1.f);
            body->through(Vec3(4, 4, 30), Vec3(0, 0, -1), 1e4f, false, random, one);
            through += one * (1.f / 40000.f);
        }
        for (int c = 0; c < 3; ++c) {
            const double sigma = 0.1 * double(red.spectrum[c]);
            NEAR(optics.extinction[c], sigma, 1e-3);
            NEAR(mean(seen[0].through[c]) * mean(seen[1].through[c]), std::exp(-8.0 * sigma), 0.03);
            NEAR(through[c], std::exp(-8.0 * sigma), 0.03);
        }
        QVERIFY(maxComponent(body->opticsAt(0, Vec3(40, 4, 4)).extinction) == 0.f);
    }

    void crowdsAreAskedAsTheirMembersWouldBe()
    {
        // Sixty cubes over a field, some of them in each other, so that a tree is asked for them.
        Random random(31);
        std::vector<media::Volume> all;
        for (int k = 0; k < 60; ++k)
            all.push_back(
                cube(random.next() * 160.f, random.next() * -160.f, 0.02f + 0.1f * random.next(), random.next()));
        const auto shot = shotOf(all, 35.0);
        const auto body = begun(shot);
        QVERIFY(body->keptCount() == 0);
        std::vector<std::shared_ptr<Shot>> alone;
        std::vector<std::shared_ptr<Body>> members;
        for (const media::Volume& v : all) {
            alone.push_back(shotOf({v}, 35.0));
            members.push_back(render::volumeBody(*alone.back()));
        }
        const media::VolumeTree tree(shot->volumes);
        int shaded = 0, met = 0, asked = 0;
        for (int round = 0; round < 200; ++round) {
            media::Ray8 way{};
            F8 length = f8(0.f);
            for (int i = 0; i < lanes; ++i) {
                const float turn = 6.2831853f * random.next();
                way.ox[i] = random.next() * 160.f, way.oy[i] = random.next() * 10.f, way.oz[i] = random.next() * -160.f;
                const float dy = random.next() - 0.5f, flat = std::sqrt(1.f - dy * dy);
                way.dx[i] = flat * std::cos(turn), way.dy[i] = dy, way.dz[i] = flat * std::sin(turn);
                length[i] = 100.f * random.next();
            }
            Body::Shade sums{}, whole{};
            F8 depth = f8(0.f);
            std::vector<bool> visited(all.size(), false), visited8(all.size(), false);
            const Vec3 o(way.ox[0], way.oy[0], way.oz[0]), d(way.dx[0], way.dy[0], way.dz[0]);
            int visits = 0;
            tree.over(o, d, length[0], [&](std::size_t k) {
                ++visits;
                return visited[k] = true;
            });
            QCOMPARE(visits, static_cast<int>(std::count(visited.begin(), visited.end(), true))); // once each
            tree.over8(way, length, [&](std::size_t k) { return visited8[k] = true; });
            for (std::size_t k = 0; k < all.size(); ++k) {
                Body::Kept none(nullptr);
                members[k]->shade(way.ox, way.oy, way.oz, none, sums);
                depth += members[k]->depthOn(way, length, nullptr);
                F8 t0 = f8(0.f), t1 = length;
                media::clip8(all[k], way, t0, t1);
                QVERIFY(!any(t1 > t0) || visited8[k]);
                QVERIFY(!(t1[0] > t0[0]) || visited[k]);
                met += t1[0] > t0[0];
                asked += visited[k];
            }
            Body::Kept none(nullptr);
            body->shade(way.ox, way.oy, way.oz, none, whole);
            const F8 far = body->depthOn(way, length, nullptr);
            for (int i = 0; i < lanes; ++i) {
                NEAR(whole.beside[i], sums.beside[i], 1e-4f);
                NEAR(whole.aside[i], sums.aside[i], 1e-4f);
                NEAR(whole.within[i], sums.within[i], 1e-4f);
                NEAR(far[i], depth[i], 1e-4f);
                shaded += whole.beside[i] > 0.01f;
            }
        }
        QVERIFY2(shaded > 200, qPrintable(QString::number(shaded)));
        // The room for what is kept of a place is left to others.
        std::vector<float> room(1024, Body::Kept::unkept);
        Body::Kept others(room.data());
        Body::Shade inside{};
        body->shade(f8(80.f), f8(2.f), f8(-80.f), others, inside);
        QVERIFY(std::all_of(room.begin(), room.end(), [](float v) { return v == Body::Kept::unkept; }));
        // Not all sixty are asked each time.
        QVERIFY2(met > 100 && asked < 200 * 60 / 4, qPrintable(QString("%1 met, %2 asked").arg(met).arg(asked)));
        // A flight ends in the nearest of what it meets, and what comes through is what all of them leave.
        for (int round = 0; round < 8; ++round) {
            const Vec3 o(random.next() * 160.f, 4.f, 5.f), d(0, 0, -1);
            double expected = 0.0, left = 0.0, passed = 0.0;
            const media::Ray8 way{f8(o.x), f8(o.y), f8(o.z), f8(d.x), f8(d.y), f8(d.z)};
            for (const auto& member : members)
                expected += double(member->depthOn(way, f8(400.f), nullptr)[0]);
            constexpr int flights = 20000;
            for (int k = 0; k < flights; ++k) {
                Vec3 one(1.f);
                body->through(o, d, 400.f, false, random, one);
                left += double(one.y) / flights;
                std::vector<media::NullCollision> nulls;
                Body::Collision at;
                at.t = 400.f;
                passed += !body->collide({o, d, Vec3(1.f), random, nulls}, at) / double(flights);
                QVERIFY(at.t <= 400.f && at.body < all.size());
            }
            QVERIFY(std::abs(left - std::exp(-expected)) < 0.015);
            QVERIFY(std::abs(passed - std::exp(-expected)) < 0.015);
        }
    }

    void lightFromAroundIsHeldUpByWhatSwallowsIt()
    {
        // A grey cube with nothing, with dark matter and with white matter on two of its sides: what the sky gives it.
        const auto skyOf = [](std::vector<media::Volume> others) {
            std::vector<media::Volume> all{cube(0, 0, 0.2f)};
            all.insert(all.end(), others.begin(), others.end());
            const auto shot = shotOf(std::move(all), 40.0);
            const render::AirModel air(*shot);
            render::VolumeLight light(shot, 0, shot->camera.position);
            for (int batch = 0; batch < 4; ++batch)
                light.add(air, 24000);
            render::VolumeLight::Scattered8 s;
            light.at8(f8(4.f), f8(4.f), f8(4.f), s);
            return mean(s.sky[1]);
        };
        const double alone = skyOf({}), dark = skyOf({cube(8.5f, 0, 2.f, 0.f), cube(-8.5f, 0, 2.f, 0.f)}),
                     white = skyOf({cube(8.5f, 0, 2.f, 1.f), cube(-8.5f, 0, 2.f, 1.f)});
        QVERIFY(alone > 0.0);
        // Two faces of six, and what comes aslant past them: between a sixth and a half is missing.
        QVERIFY2(dark / alone < 0.85 && dark / alone > 0.5, qPrintable(QString::number(dark / alone)));
        NEAR(white / alone, 1.0, 0.05); // it sends on what it holds up
    }

    void aDeckIsOneLayerForAllWhoAsk()
    {
        auto s = std::make_shared<Shot>();
        s->scene = test::emptyScene();
        light::SkySettings sky;
        sky.elevation = radians(90);
        s->sky = std::make_shared<light::Sky>(sky);
        media::CloudDeck deck;
        deck.id = "deck";
        deck.coverage = 1.f;
        deck.heaped = 0.f;
        deck.erosion = 0.f;
        deck.thickness = 100.f;
        deck.sigmaT = 0.01f;
        deck.settle();
        deck.shadow = std::make_shared<media::DeckShadow>(deck, s->sky->sunDirection(), Vec3(0.f));
        s->decks.push_back(deck);
        s->camera = {Vec3(0, 2, 0), Vec3(0, 2, -10), 50.f, 36.f};
        const auto body = render::deckBody(*s);
        QVERIFY(body && body->isLevel());
        QCOMPARE(body->slabs(), 1);
        std::vector<Body::Layer> layers;
        body->layers(layers);
        QCOMPARE(layers.size(), std::size_t{1});
        NEAR(layers[0].coverage, 1.0, 1e-6);
        // Straight up, over many places: the mean column of live rays, of flights, and the one that it says.
        const render::AirModel air(*s);
        Random random(13);
        double live = 0.0, flights = 0.0;
        constexpr int n = 400;
        for (int i = 0; i < n; ++i) {
            media::Ray8 up{f8(0.f), f8(2.f), f8(0.f), f8(0.f), f8(1.f), f8(0.f)};
            for (int k = 0; k < lanes; ++k) {
                up.ox[k] = random.range(-9000.f, 9000.f);
                up.oz[k] = random.range(-9000.f, 9000.f);
            }
            Body::Seen8 seen;
            body->look(air, up, f8(1e5f), even(), false, &seen);
            live += mean(seen.through[0]) / n;
            for (int k = 0; k < lanes; ++k) {
                Vec3 left(1.f);
                body->through(Vec3(up.ox[k], 2.f, up.oz[k]), Vec3(0, 1, 0), 1e5f, false, random, left);
                flights += static_cast<double>(left.x) / (n * lanes);
            }
        }
        NEAR(live, flights, 0.04);
        QVERIFY(live > std::exp(-double(deck.sigmaT) * double(deck.thickness)) - 0.02);
        // Air under it has its shadow, air above has none; half way up it has a part.
        const auto level = [&](float y) {
            Body::Shade shade;
            Body::Kept none(nullptr);
            body->shade(f8(30.f), f8(y), f8(-20.f), none, shade);
            return mean(shade.level);
        };
        const double whole = level(deck.base - 10.f);
        QVERIFY(whole > 0.0);
        NEAR(level(deck.base + 0.5f * deck.thickness), 0.5 * whole, 0.05);
        QCOMPARE(level(deck.base + deck.thickness + 1.f), 0.0);
        QVERIFY(maxComponent(body->opticsAt(0, Vec3(0, 100, 0)).extinction) == 0.f);
    }

    void lightOfADeckIsToldBySource()
    {
        // What the sun lights on the ground below is the sun's: without its reach there is only the sky's.
        auto s = std::make_shared<Shot>();
        s->scene = test::emptyScene();
        light::SkySettings sky;
        sky.elevation = radians(50);
        sky.groundAlbedo = Vec3(0.6f);
        s->sky = std::make_shared<light::Sky>(sky);
        NEAR(s->sky->groundBySun().y, 0.6 * double(s->sky->sunIrradiance().y) * std::sin(radians(50)) / M_PI, 1e-3);
        QVERIFY(s->sky->groundRadiance().y > s->sky->groundBySun().y);
        media::CloudDeck deck;
        deck.coverage = 1.f;
        deck.thickness = 300.f;
        deck.settle();
        deck.diffusion = std::make_shared<media::DeckDiffusion>(deck, s->sky->sunDirection());
        s->camera = {Vec3(0, 2, 0), Vec3(0, 2, -10), 50.f, 36.f};
        const auto light = [&](float bySun, float bySky) {
            deck.bySun = bySun;
            deck.bySky = bySky;
            s->decks = {deck};
            const auto body = render::deckBody(*s);
            const render::AirModel air(*s);
            Body::Seen8 seen;
            body->look(air, {f8(100.f), f8(2.f), f8(50.f), f8(0.f), f8(1.f), f8(0.f)}, f8(1e5f), even(), false, &seen);
            return std::pair{mean(seen.sun[1]), mean(seen.sky[1])};
        };
        const auto [sun, alone] = light(1.f, 0.f);
        QVERIFY(sun > 0.0);
        QCOMPARE(alone, 0.0);
        const auto [none, skyOnly] = light(0.f, 1.f);
        QCOMPARE(none, 0.0);
        QVERIFY(skyOnly > 0.0 && skyOnly < sun);
        const auto [both, together] = light(1.f, 1.f);
        NEAR(both, sun, 1e-5);
        NEAR(together, skyOnly, 1e-5);
    }
};

QTEST_GUILESS_MAIN(TestBodies)
#include "test_bodies.moc"
