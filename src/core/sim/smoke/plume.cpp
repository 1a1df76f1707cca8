#include "sim/smoke/plume.h"

#include "base/error.h"
#include "base/units.h"
#include "sim/smoke/gas_file.h"
#include "sim/smoke/stamps.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <unistd.h>

namespace hygros::sim {
namespace {
constexpr float cellsAStep = 4.f;
constexpr double mostCells = 5e8; ///< of the box; few of them are in use
} // namespace

struct PlumeSolver::Work {
    std::mutex mutex;
    std::shared_ptr<GasStepper> stepper;
    Lattice lattice;
    std::vector<geometry::PlacedSet> solidOf;
    std::vector<std::uint8_t> solid;
    bool isSolidKnown = false;
};

PlumeSolver::PlumeSolver(std::string element)
    : element_(std::move(element)),
      memoryLimit_(0.8 * double(::sysconf(_SC_PHYS_PAGES)) * double(::sysconf(_SC_PAGESIZE))),
      work_(std::make_unique<Work>()), previewWork_(std::make_unique<Work>())
{
}
PlumeSolver::~PlumeSolver() = default;

const media::Plume& PlumeSolver::plume(const shot::Shot& shot) const
{
    for (const media::Plume& p : shot.airflow.plumes)
        if (p.id == element_)
            return p;
    throw inputError("Baking", element_, "it is muted, or there is no such element",
                     "An element that is not in the shot cannot be baked.");
}

Lattice PlumeSolver::latticeOf(const media::Plume& p)
{
    Lattice l;
    l.h = p.voxel;
    double cells = 1.0;
    for (std::size_t a = 0; a < 3; ++a) {
        const double side = std::ceil(static_cast<double>(p.size[static_cast<int>(a)]) / static_cast<double>(p.voxel));
        cells *= side;
        l.n[a] = (static_cast<int>(std::clamp(side, 1.0, 4000.0)) + Lattice::side - 1) / Lattice::side * Lattice::side +
                 Lattice::side; // and a block at the high side that stays empty
    }
    if (!(cells <= mostCells) || std::max({l.n[0], l.n[1], l.n[2]}) > 4000)
        throw inputError("Baking", p.id,
                         "at voxels of " + formatQuantity(static_cast<double>(p.voxel), Quantity::Length) +
                             " its box would have " + formatNumber(cells * 1e-6, 3) + " million cells",
                         "Choose larger voxels or a smaller box.");
    l.origin = p.floor - Vec3(0.5f * static_cast<float>(l.n[0] - Lattice::side) * l.h, 0.f,
                              0.5f * static_cast<float>(l.n[2] - Lattice::side) * l.h);
    return l;
}

namespace {
std::shared_ptr<PlumeState> begun(const media::Plume& p)
{
    auto state = std::make_shared<PlumeState>();
    state->gas = Gas::still(PlumeSolver::latticeOf(p));
    for (const media::Feed& f : p.feeds)
        state->feeds[f.id] = f.toWorld;
    if (!p.preview.empty())
        state->preview = begun(p.preview.front());
    return state;
}

bool fits(const PlumeState& state, const media::Plume& p)
{
    return state.gas->lattice == PlumeSolver::latticeOf(p) && p.preview.empty() == !state.preview &&
           (p.preview.empty() || fits(*state.preview, p.preview.front()));
}

int stepsOf(const Gas& gas, const media::Plume& p, const shot::Airflow& airflow, double frameSeconds)
{
    float fastest = gas.fastest;
    for (const media::Feed& f : p.feeds)
        fastest = std::max(fastest, f.pushes ? f.velocity.length() + std::abs(f.outward) : 0.f);
    for (const media::Wind& w : airflow.winds)
        fastest += w.velocity.length() * 1.5f + 3.f * w.gusts;
    for (const media::Force& f : airflow.forces)
        fastest += 2.f * std::abs(f.speed) * std::min(1.f, f.grip * static_cast<float>(frameSeconds));
    // What begins to rise within the frame counts as well.
    const float seconds = static_cast<float>(frameSeconds) * p.pace;
    fastest += 9.81f * p.gas.buoyancy * seconds;
    return std::clamp(static_cast<int>(std::ceil(fastest * seconds / (cellsAStep * p.voxel))), 1, 64);
}
} // namespace

std::shared_ptr<const State> PlumeSolver::begin(const shot::Shot& shot) const { return begun(plume(shot)); }

bool PlumeSolver::goesOn(const State& state, const shot::Shot& shot) const
{
    return fits(static_cast<const PlumeState&>(state), plume(shot));
}

int PlumeSolver::stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const
{
    return stepsOf(*static_cast<const PlumeState&>(from).gas, plume(shot), shot.airflow, frameSeconds);
}

std::shared_ptr<const State> PlumeSolver::advance(std::shared_ptr<const State> from, const ShotWithin& shotAt,
                                                  double frameSeconds, JobControl& job) const
{
    const auto& before = static_cast<const PlumeState&>(*from);
    if (!before.preview)
        return Solver::advance(std::move(from), shotAt, frameSeconds, job);
    const auto wasAt = shotAt(0.0);
    const media::Plume& was = plume(*wasAt);
    // Calls one(shot, its plume, share of the frame) for each of a count of equal steps.
    const auto each = [&](int count, const auto& one) {
        for (int i = 1; i <= count; ++i) {
            job.check();
            const double share = i == count ? 1.0 : double(i) / count;
            const auto now = shotAt(share);
            one(*now, plume(*now), share);
        }
    };
    if (was.preview.empty())
        throw inputError("Baking", element_, "its detail changes over time");
    std::shared_ptr<const PlumeState> coarse = before.preview;
    const int coarseSteps = stepsOf(*coarse->gas, was.preview.front(), wasAt->airflow, frameSeconds);
    each(coarseSteps, [&](const shot::Shot& now, const media::Plume& p, double) {
        coarse = stepped(*coarse, p.preview.at(0), now.airflow, frameSeconds / coarseSteps, *previewWork_, {}, job);
    });
    std::shared_ptr<const PlumeState> fine = std::static_pointer_cast<const PlumeState>(from);
    const int steps = stepsOf(*before.gas, was, wasAt->airflow, frameSeconds);
    each(steps, [&](const shot::Shot& now, const media::Plume& p, double share) {
        const Guide guide{before.preview->gas.get(), coarse->gas.get(), static_cast<float>(share), p.keeps};
        auto next = stepped(*fine, p, now.airflow, frameSeconds / steps, *work_, guide, job);
        next->preview = coarse;
        fine = std::move(next);
    });
    return fine;
}

std::shared_ptr<const State> PlumeSolver::step(const State& from, const shot::Shot& shot, double seconds,
                                               JobControl& job) const
{
    return stepped(static_cast<const PlumeState&>(from), plume(shot), shot.airflow, seconds, *work_, {}, job);
}

std::shared_ptr<PlumeState> PlumeSolver::stepped(const PlumeState& before, const media::Plume& p,
                                                 const shot::Airflow& airflow, double seconds, Work& work,
                                                 const Guide& guide, JobControl& job) const
{
    const Lattice lattice = latticeOf(p);
    if (!(before.gas->lattice == lattice))
        throw inputError("Baking", element_, "its box or its voxels change over time",
                         "Both must stay as they are from the first frame to the last.");
    const std::lock_guard lock(work.mutex);
    if (!work.stepper || !(work.lattice == lattice)) {
        work.stepper = std::make_shared<GasStepper>(lattice);
        work.lattice = lattice;
        work.isSolidKnown = false;
    }
    std::vector<Inflow> inflows;
    for (const media::Feed& f : p.feeds) {
        const auto was = before.feeds.find(f.id);
        if (f.rate > 0.f)
            inflows.push_back(inflowOf(f, was == before.feeds.end() ? f.toWorld : was->second, lattice));
    }
    if (!work.isSolidKnown || work.solidOf != p.obstacles) {
        work.solid = solidsOf(p.obstacles, lattice, job);
        work.solidOf = p.obstacles;
        work.isSolidKnown = true;
    }
    std::vector<std::uint8_t> solid = work.solid;
    if (!solid.empty())
        for (const Inflow& in : inflows) // what feeds is open
            for (const auto& [c, share] : in.cells)
                solid[static_cast<std::size_t>(lattice.at(c[0], c[1], c[2]))] = 0;
    work.stepper->setSolids(std::move(solid));
    Ambient ambient;
    if (!airflow.winds.empty())
        ambient = [&winds = airflow.winds](const Vec3& place) { return media::windAt(winds, place); };
    if (const double bytes = double(work.stepper->needed(*before.gas, inflows).cells()) * bytesACell;
        bytes > memoryLimit_)
        throw workingError("Baking", element_,
                           "at voxels of " + formatQuantity(double(p.voxel), Quantity::Length) + " its gas needs " +
                               formatNumber(bytes * 1e-9, 3) + " GB of memory, more than the " +
                               formatNumber(memoryLimit_ * 1e-9, 3) + " GB that it may take",
                           "Frames up to here are kept. Choose larger voxels or a smaller box.");
    auto state = std::make_shared<PlumeState>();
    const std::weak_ptr<GasStepper> keeper = work.stepper;
    auto gas = work.stepper->step(*before.gas, p.gas, inflows, ambient, static_cast<float>(seconds) * p.pace,
                                  airflow.forces, guide);
    // What nobody needs any more is used again.
    Gas* raw = new Gas(std::move(*gas));
    state->gas = std::shared_ptr<const Gas>(raw, [keeper](const Gas* g) {
        auto* mine = const_cast<Gas*>(g); // made here, shared as constant
        if (const auto stepper = keeper.lock())
            stepper->recycle(*mine);
        delete mine;
    });
    for (const media::Feed& f : p.feeds)
        state->feeds[f.id] = f.toWorld;
    return state;
}

namespace {
constexpr std::uint32_t hasPreview = 0x80000000u; ///< beside the number of feeds

std::string bytesOf(const PlumeState& s)
{
    constexpr float around = 288.f;
    std::string out;
    const auto put = [&](const void* from, std::size_t bytes) { out.append(static_cast<const char*>(from), bytes); };
    const auto count = static_cast<std::uint32_t>(s.feeds.size()) | (s.preview ? hasPreview : 0u);
    put(&count, sizeof count);
    for (const auto& [id, place] : s.feeds) {
        const auto length = static_cast<std::uint32_t>(id.size());
        put(&length, sizeof length);
        put(id.data(), id.size());
        put(place.getValue(), 16 * sizeof(float));
    }
    if (s.preview) {
        const std::string inner = bytesOf(*s.preview);
        const auto length = static_cast<std::uint64_t>(inner.size());
        put(&length, sizeof length);
        out += inner;
    }
    return out + written(*s.gas, around);
}

std::shared_ptr<PlumeState> stateOf(std::span<const char> bytes)
{
    auto state = std::make_shared<PlumeState>();
    std::span<const char> preview;
    const std::size_t head = headOf(bytes, &state->feeds, &preview);
    if (!preview.empty())
        state->preview = stateOf(preview);
    state->gas = readGas(bytes.subspan(head));
    return state;
}

/// In the place where it is; false where others look at it as it is.
bool roundHere(const PlumeState& s)
{
    if (s.gas.use_count() > 1 || (s.preview && (s.preview.use_count() > 1 || !roundHere(*s.preview))))
        return false;
    roundAsWritten(const_cast<Gas&>(*s.gas)); // made by stepped(), seen by nobody else
    return true;
}
} // namespace

std::string PlumeSolver::write(const State& state) const { return bytesOf(static_cast<const PlumeState&>(state)); }

std::size_t headOf(std::span<const char> bytes, std::map<std::string, Mat4>* feeds, std::span<const char>* preview)
{
    const auto bad = [] { return inputError("Reading a baked gas", "frame", "it is damaged", "Bake it again."); };
    std::size_t at = 0;
    const auto take = [&](void* to, std::size_t count) {
        if (count > bytes.size() - at)
            throw bad();
        std::memcpy(to, bytes.data() + at, count);
        at += count;
    };
    std::uint32_t count = 0;
    take(&count, sizeof count);
    const bool keepsToOne = (count & hasPreview) != 0;
    count &= ~hasPreview;
    if (count > 100000)
        throw bad();
    for (std::uint32_t i = 0; i < count; ++i) {
        std::uint32_t length = 0;
        take(&length, sizeof length);
        if (length > 10000)
            throw bad();
        std::string id(length, ' ');
        take(id.data(), length);
        Mat4 place;
        take(place.getValue(), 16 * sizeof(float));
        if (feeds)
            (*feeds)[id] = place;
    }
    if (keepsToOne) {
        std::uint64_t length = 0;
        take(&length, sizeof length);
        if (length == 0 || length > bytes.size() - at)
            throw bad();
        if (preview)
            *preview = bytes.subspan(at, static_cast<std::size_t>(length));
        at += static_cast<std::size_t>(length);
    }
    return at;
}

std::shared_ptr<const State> PlumeSolver::rounded(std::shared_ptr<const State> state) const
{
    if (state.use_count() > 1 || !roundHere(static_cast<const PlumeState&>(*state)))
        return Solver::rounded(std::move(state));
    return state;
}

std::shared_ptr<const State> PlumeSolver::read(std::span<const char> bytes) const { return stateOf(bytes); }
} // namespace hygros::sim
