/// A pool under a weir, on the canal of Marl farther down: without the lock, its water left to the project.
#include "marl.h"

#include <cmath>

namespace hygros::demo {
void buildWeir(Marl& m)
{
    layGround(m);
    const Surface water = m.water.surface;
    m.water = Builder();
    m.water.surface = water;
    buildHut(m);
    plantPoplars(m);
    sowGrass(m);
    const float left = canalLeft - 0.9f, right = canalRight + 0.9f, middle = 0.5f * (canalLeft + canalRight),
                wide = right - left;
    // The weir: a stone sill with two piers, planks between them, a foot bridge over it.
    const float z = -52.f;
    m.stone.box(Vec3(middle, -0.95f, z), Vec3(wide, 2.4f, 1.4f), 0.05f);
    m.stone.box(Vec3(middle, -1.3f, z + 1.6f), Vec3(wide, 1.7f, 2.f), 0.05f);
    for (const float x : {left + 0.4f, middle - 1.9f, middle + 1.9f, right - 0.4f}) {
        m.stone.box(Vec3(x, 0.25f, z), Vec3(0.8f, 1.9f, 1.9f), 0.06f);
        m.stone.box(Vec3(x, 1.24f, z), Vec3(0.95f, 0.16f, 2.05f), 0.04f);
    }
    for (int i = 0; i < 3; ++i)
        m.timber.box(Vec3(middle, 0.34f + 0.24f * static_cast<float>(i), z + 0.1f), Vec3(3.1f, 0.22f, 0.09f), 0.012f);
    for (int i = 0; i < 4; ++i)
        m.plank.box(Vec3(middle, 1.36f, z - 0.45f + 0.3f * static_cast<float>(i)), Vec3(wide, 0.06f, 0.27f), 0.01f);
    for (const float x : {left + 0.1f, left + 2.f, middle - 1.9f, middle, middle + 1.9f, right - 2.f, right - 0.1f})
        m.iron.tube(Vec3(x, 1.36f, z + 0.6f), Vec3(x, 2.4f, z + 0.6f), 0.03f, 0.03f, 8);
    for (const float y : {1.9f, 2.38f})
        m.iron.tube(Vec3(left + 0.1f, y, z + 0.6f), Vec3(right - 0.1f, y, z + 0.6f), 0.025f, 0.025f, 8);
    // A wall that closes the pool behind the camera.
    m.stone.box(Vec3(middle, -0.8f, 26.f), Vec3(wide + 1.f, 3.2f, 1.f), 0.05f);
    // A landing stage on the left, with a post and a lantern.
    for (int i = 0; i < 16; ++i)
        m.plank.box(Vec3(canalLeft + 0.75f, 0.42f, -8.f - 0.26f * static_cast<float>(i)), Vec3(2.3f, 0.05f, 0.235f),
                    0.01f);
    for (const float pz : {-8.1f, -10.f, -11.9f})
        for (const float x : {canalLeft - 0.2f, canalLeft + 1.75f})
            m.timber.tube(Vec3(x, -1.8f, pz), Vec3(x, x > canalLeft ? 0.85f : 0.5f, pz), 0.09f, 0.08f, 10);
    m.iron.tube(Vec3(canalLeft + 1.75f, 0.8f, -11.9f), Vec3(canalLeft + 1.75f, 2.3f, -11.9f), 0.03f, 0.025f, 8);
    m.litGlass.tube(Vec3(canalLeft + 1.75f, 2.3f, -11.9f), Vec3(canalLeft + 1.75f, 2.5f, -11.9f), 0.07f, 0.07f, 10);
    m.iron.tube(Vec3(canalLeft + 1.75f, 2.5f, -11.9f), Vec3(canalLeft + 1.75f, 2.6f, -11.9f), 0.11f, 0.02f, 10);
    // Reeds at the foot of both banks.
    Random random(61);
    for (int i = 0; i < 900; ++i) {
        const float rz = 4.f - 50.f * std::pow(random.next(), 0.8f);
        const bool isLeft = random.next() < 0.45f;
        if (isLeft && rz < -7.f && rz > -13.f)
            continue; // the landing stage
        const float x = isLeft ? canalLeft + random.range(-0.25f, 0.3f) : canalRight + random.range(-0.3f, 0.25f);
        for (int k = 0; k < 5; ++k) {
            const Vec3 root(x + random.range(-0.1f, 0.1f), -0.3f, rz + random.range(-0.1f, 0.1f));
            const float h = random.range(0.9f, 1.7f);
            m.grass.blade(root, root + Vec3(random.range(-0.25f, 0.25f), h, random.range(-0.25f, 0.25f)), 0.022f);
        }
    }
}
} // namespace hygros::demo
