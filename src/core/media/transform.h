#pragma once
/// Plans of FFTW for square planes, made once a size and used by all threads (FFTW's planner is no friend of threads).
#include <fftw3.h>

#include <cstddef>
#include <memory>

namespace hygros::media {

/// n × (n/2 + 1) complex numbers into n × n real ones and back; new arrays at each use, allocated by the two below.
fftwf_plan toReal(int n);
fftwf_plan toComplex(int n);

struct FftwFree {
    void operator()(void* p) const { fftwf_free(p); }
};
using Reals = std::unique_ptr<float[], FftwFree>;
using Complexes = std::unique_ptr<fftwf_complex[], FftwFree>;
inline Reals realsOf(std::size_t count) { return Reals(fftwf_alloc_real(count)); }
inline Complexes complexesOf(std::size_t count) { return Complexes(fftwf_alloc_complex(count)); }
} // namespace hygros::media
