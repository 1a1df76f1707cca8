#pragma once
/// Where simulated gas has its numbers: cells of a box, of which blocks of 8³ are in use, and arrays over all of them
/// that take memory only where they were written.
///
/// Cell (x, y, z) has its middle at origin + (x + ½, y + ½, z + ½)·h. Components of the velocity stand on the faces at
/// the low side of the cells (Harlow & Welch 1965). Arrays have two rows more on every side and eight cells more at the
/// ends of a row, so that neighbours of a cell can always be read.
#include "base/parallel.h"
#include "base/vec.h"

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <mutex>
#include <vector>

namespace hygros::sim {

struct Lattice {
    static constexpr int side = 8;   ///< cells along a block
    static constexpr int pad = 8;    ///< cells more at both ends of a row
    static constexpr int margin = 2; ///< rows more on every side
    std::array<int, 3> n{8, 8, 8};   ///< cells, whole blocks
    float h = 0.1f;                  ///< [m]
    Vec3 origin{0.f};                ///< low corner, world [m]

    int row() const { return n[0] + 2 * pad; }
    std::ptrdiff_t plane() const { return static_cast<std::ptrdiff_t>(n[1] + 2 * margin) * row(); }
    std::size_t size() const { return static_cast<std::size_t>(plane()) * static_cast<std::size_t>(n[2] + 2 * margin); }
    /// Of a cell; −2 and n + 1 are there in all directions.
    std::ptrdiff_t at(int x, int y, int z) const
    {
        return (static_cast<std::ptrdiff_t>(z + margin) * (n[1] + 2 * margin) + y + margin) * row() + pad + x;
    }
    std::array<int, 3> blocks() const { return {n[0] / side, n[1] / side, n[2] / side}; }
    std::size_t blockCount() const
    {
        const auto b = blocks();
        return static_cast<std::size_t>(b[0]) * static_cast<std::size_t>(b[1]) * static_cast<std::size_t>(b[2]);
    }
    std::size_t block(int bx, int by, int bz) const
    {
        const auto b = blocks();
        return (static_cast<std::size_t>(bz) * static_cast<std::size_t>(b[1]) + static_cast<std::size_t>(by)) *
                   static_cast<std::size_t>(b[0]) +
               static_cast<std::size_t>(bx);
    }
    Vec3 middle(int x, int y, int z) const
    {
        return origin +
               Vec3(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f, static_cast<float>(z) + 0.5f) * h;
    }
    bool operator==(const Lattice&) const = default;
};

/// Which blocks are in use.
class Activity {
public:
    Activity() = default;
    Activity(const Lattice& lattice, std::vector<std::uint8_t> on);
    /// All of it.
    static Activity whole(const Lattice& lattice)
    {
        return {lattice, std::vector<std::uint8_t>(lattice.blockCount(), 1)};
    }
    bool isOn(std::size_t block) const { return on_[block] != 0; }
    const std::vector<std::uint8_t>& on() const { return on_; }
    std::size_t count() const { return count_; }
    std::size_t cells() const { return count_ * 512; }
    /// Blocks in use that lie side by side along x.
    struct Span {
        std::int16_t first, end, by, bz;
    };
    const std::vector<Span>& spans() const { return spans_; }
    bool operator==(const Activity& o) const { return on_ == o.on_; }
    /// These and those beside them at the high sides, where the last faces of their cells stand.
    std::vector<std::uint8_t> withEnds(const Lattice& lattice) const;
    /// These and all that touch them, but for the last at the high sides of the lattice.
    Activity grown(const Lattice& lattice) const;
    /// These without those that have a side on which none is in use, or there is no more lattice.
    Activity shrunk(const Lattice& lattice) const;
    /// Calls body(face beyond the cells in use, the face before it) for the high ends along an axis.
    template <class Body> void ends(const Lattice& lattice, int axis, const Body& body) const;

    /// Calls body(x0, x1, y, z) for all rows of cells in use, on all cores.
    template <class Body> void rows(const Body& body) const
    {
        parallelRanges(spans_.size(), 1, [&](std::size_t a, std::size_t b) {
            for (std::size_t s = a; s < b; ++s)
                for (int z = spans_[s].bz * Lattice::side; z < (spans_[s].bz + 1) * Lattice::side; ++z)
                    for (int y = spans_[s].by * Lattice::side; y < (spans_[s].by + 1) * Lattice::side; ++y)
                        body(spans_[s].first * Lattice::side, spans_[s].end * Lattice::side, y, z);
        });
    }
    /// Sum over all rows of what body(x0, x1, y, z) returns, the same whatever the number of threads.
    template <class Body> double sum(const Body& body) const
    {
        std::vector<double> parts(spans_.size(), 0.0);
        parallelRanges(spans_.size(), 1, [&](std::size_t a, std::size_t b) {
            for (std::size_t s = a; s < b; ++s)
                for (int z = spans_[s].bz * Lattice::side; z < (spans_[s].bz + 1) * Lattice::side; ++z)
                    for (int y = spans_[s].by * Lattice::side; y < (spans_[s].by + 1) * Lattice::side; ++y)
                        parts[s] += body(spans_[s].first * Lattice::side, spans_[s].end * Lattice::side, y, z);
        });
        double all = 0.0;
        for (const double p : parts)
            all += p;
        return all;
    }

private:
    std::vector<std::uint8_t> on_;
    std::vector<Span> spans_;
    std::size_t count_ = 0;
};

template <class Body> void Activity::ends(const Lattice& l, int axis, const Body& body) const
{
    const auto b = l.blocks();
    for (const Span& s : spans_)
        for (int bx = s.first; bx < s.end; ++bx) {
            const int nx = bx + (axis == 0), ny = s.by + (axis == 1), nz = s.bz + (axis == 2);
            if (nx < b[0] && ny < b[1] && nz < b[2] && isOn(l.block(nx, ny, nz)))
                continue;
            const std::ptrdiff_t step = axis == 0 ? 1 : axis == 1 ? l.row() : l.plane();
            for (int p = 0; p < Lattice::side; ++p)
                for (int q = 0; q < Lattice::side; ++q) {
                    const std::ptrdiff_t i = axis == 0   ? l.at(nx * Lattice::side, s.by * Lattice::side + p,
                                                                s.bz * Lattice::side + q)
                                             : axis == 1 ? l.at(bx * Lattice::side + q, ny * Lattice::side,
                                                                s.bz * Lattice::side + p)
                                                         : l.at(bx * Lattice::side + q, s.by * Lattice::side + p,
                                                                nz * Lattice::side);
                    body(i, i - step);
                }
        }
}

/// Numbers over a lattice, 0 where none was written. Memory is taken by pages as they are written.
class Field {
public:
    Field() = default;
    explicit Field(std::size_t size);
    float* data() { return data_.get(); }
    const float* data() const { return data_.get(); }
    std::size_t size() const { return size_; }
    explicit operator bool() const { return data_ != nullptr; }

private:
    struct Unmap {
        std::size_t bytes;
        void operator()(float* p) const;
    };
    std::unique_ptr<float[], Unmap> data_;
    std::size_t size_ = 0;
};

/// Arrays of one lattice that are used again: taking one costs nothing where it has been written before.
class FieldPool {
public:
    explicit FieldPool(const Lattice& lattice) : lattice_(lattice) {}
    /// One that is 0 outside of `activity`, in it anything.
    Field take(const Activity& activity);
    /// Gives it back; it was written in these blocks only.
    void give(Field field, std::vector<std::uint8_t> written);
    const Lattice& lattice() const { return lattice_; }

private:
    struct Kept {
        Field field;
        std::vector<std::uint8_t> written;
    };
    Lattice lattice_;
    std::mutex mutex_;
    std::vector<Kept> kept_;
};

/// Between the values of a field, at a place counted in cells from where that of cell (0, 0, 0) stands; 0 beyond the
/// lattice.
float valueAt(const Lattice& lattice, const Field& field, const Vec3& cells);
/// Largest size of a block's values.
float largestIn(const Lattice& lattice, const float* values, int bx, int by, int bz);
/// Sets a block to a value.
void fillBlock(const Lattice& lattice, float* values, int bx, int by, int bz, float value);
} // namespace hygros::sim
