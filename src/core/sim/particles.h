#pragma once
/// Things that are thrown or let go (media::Particles in a shot): they fly by weight and drag in the wind, the forces
/// and the plume that carries them, meet the set and the ground, bounce, slide and lie.
///
/// Drag by Reynolds number (media::dragRate); a step takes the approach to the speed that air and weight lead to
/// exactly, so that terminal speed comes out whatever the step. A contact leaves the share `bounce` of the speed into
/// the surface and takes Coulomb's share of that along it.
#include "sim/solver.h"

#include <atomic>
#include <cstring>
#include <memory>
#include <new>
#include <vector>

namespace hygros::sim {

/// Leaves new numbers as they are: they are written before they are read. Begins each list elsewhere in a page: lists
/// read side by side would else meet in the same lines of the cache.
template <class T> struct Unset : std::allocator<T> {
    template <class U> struct rebind {
        using other = Unset<U>;
    };
    static constexpr std::size_t line = 64, lines = 64; ///< of a cache; of a page
    T* allocate(std::size_t n)
    {
        static std::atomic<std::size_t> count{0};
        const std::size_t shift = (1 + count.fetch_add(1, std::memory_order_relaxed) * 7 % lines) * line;
        void* all = ::operator new (n * sizeof(T) + (lines + 1) * line, std::align_val_t{line});
        char* begin = static_cast<char*>(all) + shift;
        std::memcpy(begin - sizeof all, &all, sizeof all);
        return reinterpret_cast<T*>(begin);
    }
    void deallocate(T* p, std::size_t)
    {
        void* all = nullptr;
        std::memcpy(&all, reinterpret_cast<char*>(p) - sizeof all, sizeof all);
        ::operator delete (all, std::align_val_t{line});
    }
    template <class U> void construct(U*) {}
    template <class U, class... Args> void construct(U* to, Args&&... from)
    {
        ::new (static_cast<void*>(to)) U(std::forward<Args>(from)...);
    }
};
template <class T> using Values = std::vector<T, Unset<T>>;

/// Nothing of the set is higher than this over a place: what stays above needs no ray.
class Ceiling;

/// One that lies, 28 bytes.
struct Lying {
    Vec3 place;
    float size = 0.f;         ///< diameter [m]
    float since = 0.f;        ///< simulated time at which it came to lie [s]
    std::uint32_t number = 0; ///< in the order of their births
    std::uint32_t facing = 0; ///< normal of what it lies on: three bytes of 127·(n + 1)
};
Vec3 facingOf(std::uint32_t packed);

struct ParticleState final : State {
    /// Those that move, by component, eight stepped at once: 36 bytes each. Of all the same length, a multiple of
    /// eight; what is past `count` is nothing.
    struct Moving {
        std::size_t count = 0;
        Values<float> x, y, z, u, v, w; ///< place [m], velocity [m/s]
        Values<float> size, age;        ///< diameter [m], since birth [s]
        Values<std::uint32_t> number;
        /// Those past the first `n` of before are to be written; what is past `n` becomes nothing.
        void resize(std::size_t n);
        /// Room for all of those before and so many more; only those that fill no eight are copied.
        void after(const Moving& before, std::size_t more);
    } moving;
    /// What lies is not touched by a step; lists are shared from state to state.
    std::vector<std::shared_ptr<const std::vector<Lying>>> lying;
    double born = 0.0;    ///< so far, the next one in part
    double seconds = 0.0; ///< simulated
    /// Kept from step to step for as long as the sets stand where they do; not written.
    std::shared_ptr<const Ceiling> ceiling;
    std::vector<geometry::PlacedSet> under;
    std::size_t lyingCount() const;
    /// What both take in memory [bytes].
    std::size_t bytes() const;
};

class ParticleSolver final : public Solver {
public:
    static constexpr double most = 12e6; ///< at a time
    explicit ParticleSolver(std::string element) : element_(std::move(element)) {}
    std::shared_ptr<const State> begin(const shot::Shot& shot) const override;
    /// Throws an input Error where there would be more than `most`, or nowhere that they can begin.
    std::shared_ptr<const State> step(const State& from, const shot::Shot& shot, double seconds,
                                      JobControl& job) const override;
    int stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const override;
    std::string write(const State& state) const override;
    std::shared_ptr<const State> rounded(std::shared_ptr<const State> state) const override { return state; }
    std::shared_ptr<const State> read(std::span<const char> bytes) const override;

private:
    const media::Particles& particles(const shot::Shot& shot) const;
    std::string element_;
};
} // namespace hygros::sim
