#pragma once
/// Tables that give each colour another one, from .cube files: what several grading and display programs share
/// (keywords TITLE, LUT_1D_SIZE, LUT_3D_SIZE, DOMAIN_MIN, DOMAIN_MAX; LUT_1D_INPUT_RANGE and LUT_3D_INPUT_RANGE too).
#include "base/simd.h"
#include "base/vec.h"

#include <array>
#include <filesystem>
#include <memory>
#include <string>
#include <vector>

namespace hygros::image {

/// A curve for each channel, a lattice of colours, or the one after the other. Immutable.
class ColourTable {
public:
    static constexpr int mostInCurves = 65536, mostAlongEdge = 129; ///< larger ones are refused

    /// Reads the text of a .cube file; `subject` names it in errors. Throws an input Error: no size, sizes out of
    /// bounds or given twice, too few or too many lines of numbers, what is no number or not finite, a domain that is
    /// empty, keywords that are unknown.
    static std::shared_ptr<const ColourTable> parse(const std::string& text, const std::string& subject);
    static std::shared_ptr<const ColourTable> load(const std::filesystem::path& file);

    /// Eight colours at once, red, green and blue apart. What leaves the domain counts as its edge. Curves are linear
    /// between their entries, the lattice is by tetrahedra (J. Kasson, S. Nin, W. Plouffe & J. Hafner, *Performing
    /// color space conversions with three-dimensional linear interpolation*, J. Electronic Imaging 4, 1995), so that
    /// greys come of greys alone.
    void apply(F8 colour[3]) const;

    const std::string& title() const { return title_; }
    /// Entries of each channel's curve, and along each edge of the lattice; 0: it has none.
    int curveEntries() const { return curveEntries_; }
    int edge() const { return edge_; }
    std::size_t bytes() const
    {
        return sizeof *this + (curves_.size() + lattice_.size()) * sizeof(float) + title_.size();
    }

private:
    struct Domain {
        Vec3 from{0.f}, to{1.f};
    };
    std::string title_;
    int curveEntries_ = 0, edge_ = 0;
    Domain curveDomain_, latticeDomain_;
    std::vector<float> curves_;  ///< [channel][entry]
    std::vector<float> lattice_; ///< [blue][green][red][4], the fourth 0
};
} // namespace hygros::image
