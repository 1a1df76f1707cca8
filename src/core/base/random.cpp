#include "base/random.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace hygros {
namespace {
std::uint32_t reversed(std::uint32_t v)
{
    v = (v << 16) | (v >> 16);
    v = ((v & 0x00ff00ffu) << 8) | ((v & 0xff00ff00u) >> 8);
    v = ((v & 0x0f0f0f0fu) << 4) | ((v & 0xf0f0f0f0u) >> 4);
    v = ((v & 0x33333333u) << 2) | ((v & 0xccccccccu) >> 2);
    return ((v & 0x55555555u) << 1) | ((v & 0xaaaaaaaau) >> 1);
}
/// Owen's nested scramble by a hash (Laine & Karras 2011, constants of Burley 2020).
std::uint32_t scrambled(std::uint32_t v, std::uint32_t seed)
{
    v = reversed(v) + seed;
    v ^= v * 0x6c50b47cu;
    v ^= v * 0xb82f1e52u;
    v ^= v * 0xc7afe638u;
    v ^= v * 0x8d22f6e6u;
    return reversed(v);
}
/// Second coordinate of Sobol's sequence; the first is reversed(index).
std::uint32_t sobolSecond(std::uint32_t index)
{
    std::uint32_t result = 0;
    for (std::uint32_t direction = 0x80000000u; index; index >>= 1, direction ^= direction >> 1)
        if (index & 1u)
            result ^= direction;
    return result;
}
} // namespace

const BlueNoise& BlueNoise::tile()
{
    static const BlueNoise instance;
    return instance;
}

BlueNoise::BlueNoise()
{
    turns_.resize(passes * purposes);
    for (std::uint32_t pass = 0; pass < passes; ++pass)
        for (std::uint32_t purpose = 0; purpose < purposes; ++purpose) {
            const std::uint32_t index = scrambled(pass, hash32((purpose + 1) / 2));
            turns_[pass * purposes + purpose] = unitFloat(purpose & 1u ? reversed(index) : sobolSecond(index));
        }
    // Each pixel carries the Gaussian-filtered energy of the pixels set so far; ranks are given by always
    // filling the largest void. The start is a small random pattern relaxed until void and cluster agree.
    constexpr int n = size * size, reach = 7;
    std::array<float, (2 * reach + 1) * (2 * reach + 1)> kernel;
    for (int y = -reach; y <= reach; ++y)
        for (int x = -reach; x <= reach; ++x)
            kernel[static_cast<unsigned>((y + reach) * (2 * reach + 1) + x + reach)] = std::exp(
                -static_cast<float>(x * x + y * y) / (2.f * 1.9f * 1.9f));
    std::vector<float> energy(n, 0.f);
    std::vector<char> set(n, 0);
    const auto put = [&](int p, float sign) {
        const int px = p % size, py = p / size;
        for (int y = -reach; y <= reach; ++y)
            for (int x = -reach; x <= reach; ++x)
                energy[static_cast<unsigned>(((py + y) & (size - 1)) * size + ((px + x) & (size - 1)))] +=
                    sign * kernel[static_cast<unsigned>((y + reach) * (2 * reach + 1) + x + reach)];
        set[static_cast<unsigned>(p)] = sign > 0.f;
    };
    const auto extreme = [&](char wanted, float sign) {
        int best = -1;
        float value = 0.f;
        for (int i = 0; i < n; ++i)
            if (set[static_cast<unsigned>(i)] == wanted) {
                const float e = sign * energy[static_cast<unsigned>(i)];
                if (best < 0 || e < value) {
                    best = i;
                    value = e;
                }
            }
        return best;
    };
    Random random(4711u);
    const int start = n / 16;
    for (int i = 0; i < start;) {
        const int p = std::min(n - 1, static_cast<int>(random.next() * n));
        if (!set[static_cast<unsigned>(p)]) {
            put(p, 1.f);
            ++i;
        }
    }
    for (int step = 0; step < 300; ++step) {
        const int cluster = extreme(1, -1.f);
        put(cluster, -1.f);
        const int gap = extreme(0, 1.f);
        put(gap, 1.f);
        if (gap == cluster)
            break;
    }
    const std::vector<float> startEnergy = energy;
    const std::vector<char> startSet = set;
    const auto rank = [&](int p, int order) {
        rank_[static_cast<unsigned>(p)] = (static_cast<float>(order) + 0.5f) / n;
    };
    for (int order = start - 1; order >= 0; --order) {
        const int cluster = extreme(1, -1.f);
        put(cluster, -1.f);
        rank(cluster, order);
    }
    energy = startEnergy;
    set = startSet;
    for (int order = start; order < n; ++order) {
        const int gap = extreme(0, 1.f);
        put(gap, 1.f);
        rank(gap, order);
    }
}
} // namespace hygros
