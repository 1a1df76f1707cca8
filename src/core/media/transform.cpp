#include "media/transform.h"

#include <map>
#include <mutex>

namespace hygros::media {
namespace {
std::mutex planning;

fftwf_plan planOf(std::map<int, fftwf_plan>& plans, int n, bool forward)
{
    const std::lock_guard lock(planning);
    fftwf_plan& plan = plans[n];
    if (!plan) {
        const auto side = static_cast<std::size_t>(n);
        const Complexes c = complexesOf(side * (side / 2 + 1));
        const Reals r = realsOf(side * side);
        constexpr unsigned how = FFTW_ESTIMATE | FFTW_DESTROY_INPUT;
        plan = forward ? fftwf_plan_dft_r2c_2d(n, n, r.get(), c.get(), how)
                       : fftwf_plan_dft_c2r_2d(n, n, c.get(), r.get(), how);
    }
    return plan;
}
} // namespace

fftwf_plan toReal(int n)
{
    static std::map<int, fftwf_plan> plans;
    return planOf(plans, n, false);
}

fftwf_plan toComplex(int n)
{
    static std::map<int, fftwf_plan> plans;
    return planOf(plans, n, true);
}
} // namespace hygros::media
