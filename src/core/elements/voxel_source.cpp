#include "elements/voxel_source.h"

#include "base/shown_units.h"
#include "base/words.h"

#include "elements/bake.h"
#include "elements/plume_parts.h"
#include "elements/plume_settings.h"
#include "geometry/plate.h"
#include "sim/smoke/plume.h"
#include "sim/smoke/retime.h"
#include "sim/smoke/sharpen.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace hygros::elements {
namespace {
struct ShapeKey {
    explicit ShapeKey(const ShapeSource& s) : source(s)
    {
        if (s.object) {
            object = s.object->set;
            source.object->set.reset();
        }
    }
    Identity object;
    ShapeSource source;
    bool operator==(const ShapeKey&) const = default;
};
struct MovedKey {
    std::string name, velocity;
    double seconds;
    float power;
    bool operator==(const MovedKey&) const = default;
};

/// An OpenVDB file, or numbered ones.
class FileSource final : public VoxelSource {
public:
    FileSource(const FreezeContext& c, const VolumeSettings& s) : c_(c), s_(s) {}

    std::filesystem::path file(double frame) const override
    {
        if (s_.file.empty()) {
            c_.note("Choose an OpenVDB file; until then it is left out.");
            return {};
        }
        const std::filesystem::path file = scene::resolved(c_.project, s_.file);
        if (!s_.sequence)
            return file;
        constexpr double rounding = 1e-6; // of a loop's end
        const double at = c_.project.time.loopedFrame(frame);
        int number = static_cast<int>(std::floor((at - 1) * s_.speed + rounding)) + 1 + static_cast<int>(s_.offset);
        if (const auto range = geometry::frameRange(file)) {
            const auto [first, last] = *range;
            if (s_.ends == "loop")
                number = first + ((number - first) % (last - first + 1) + last - first + 1) % (last - first + 1);
            else if (s_.ends == "nothing" && (number < first || number > last))
                return {};
            number = std::clamp(number, first, last);
        }
        std::string note;
        const std::filesystem::path found = geometry::frameOf(
            file, number, note, s_.gaps == "hold" ? geometry::Gaps::Hold : geometry::Gaps::Empty);
        if (!note.empty())
            c_.note(note);
        return found;
    }

    VoxelAnswer at(double frame, VoxelGrid which) const override
    {
        const std::filesystem::path own = file(frame);
        if (own.empty())
            return {};
        const auto listed = keptVolumeFile(c_.store, own, c_.job);
        const auto& grids = *listed;
        std::string name = which == VoxelGrid::Density ? s_.density : s_.heat;
        if (which == VoxelGrid::Density) {
            if (name.empty())
                name = media::guessedGrid(grids, "density");
            if (name.empty() && grids.size() != 1) {
                c_.note("None of the file's grids is known to be a density; choose one.");
                return {};
            }
        } else {
            for (const char* what : {"temperature", "emission"})
                if (name.empty())
                    name = media::guessedGrid(grids, what);
            if (name.empty()) {
                c_.note("None of the file's grids is known to be a temperature or a flame; choose the heat grid.");
                return {};
            }
        }
        if (s_.shutter > 0.0)
            if (const std::string moving = velocityIn(grids); !moving.empty())
                return {VoxelAnswer::State::There, moved(own, name.empty() ? grids.front().name : name, moving, which)};
        FileVersion was;
        auto kept = keptGrid(c_.store, own, name, c_.job, &was);
        c_.cameFrom(was);
        return {VoxelAnswer::State::There, std::move(kept)};
    }

    bool isCurved() const override { return true; }

private:
    std::string velocityIn(const std::vector<media::VdbGrid>& grids) const
    {
        const std::string name = s_.velocity.empty() ? media::guessedGrid(grids, "velocity") : s_.velocity;
        if (name.empty())
            c_.note("None of the file's grids is known to be a velocity; choose one, or it is not blurred by its "
                    "motion.");
        return name;
    }

    /// Spread along its way while the shutter is open. Light from something hot goes by the fourth power of its
    /// temperature: what it sends out while it moves stays the same.
    std::shared_ptr<const media::LoadedGrid> moved(const std::filesystem::path& file, const std::string& name,
                                                   const std::string& velocity, VoxelGrid which) const
    {
        const double seconds = s_.shutter * s_.velocityScale / c_.project.time.rate.perSecond();
        const float power = which == VoxelGrid::Heat && s_.glow == "blackbody" ? 4.f : 1.f;
        return c_.read(file, MovedKey{name, velocity, seconds, power}, [&] {
            return std::make_shared<const media::LoadedGrid>(
                media::motionBlurred(file, name, velocity, seconds, c_.job, power));
        });
    }

    const FreezeContext& c_;
    const VolumeSettings& s_;
};

/// What a set object encloses, or a plain body.
class FormSource final : public VoxelSource {
public:
    FormSource(const FreezeContext& c, const VolumeSettings& s, ShapeSource::Body body) : c_(c), s_(s), body_(body) {}

    VoxelAnswer at(double, VoxelGrid which) const override
    {
        if (which == VoxelGrid::Heat) {
            c_.note("A shape has no heat to glow with; only files do.");
            return {};
        }
        ShapeSource shape;
        shape.body = body_;
        if (body_ == ShapeSource::Body::Object) {
            const scene::Element* object = c_.project.find(s_.object);
            shape.object = object ? placedSet(c_, *object) : std::nullopt;
            if (!shape.object) {
                c_.note(s_.object.empty() ? "Choose the set object that becomes fog; until then it is left out."
                                          : "There is no set object '" + s_.object + "'; it is left out.");
                return {};
            }
        } else {
            shape.size = s_.size;
        }
        shape.voxel = static_cast<float>(s_.voxel);
        shape.edge = static_cast<float>(s_.edge);
        shape.hollow = static_cast<float>(s_.hollow);
        if (s_.curve != scene::CurvePoints{{0.f, 0.f}, {1.f, 1.f}})
            shape.curve = s_.curve;
        shape.noise.contrast = static_cast<float>(s_.contrast);
        shape.noise.scale = static_cast<float>(s_.scaleNoise);
        shape.noise.octaves = static_cast<int>(s_.octaves);
        shape.noise.seed = static_cast<std::uint32_t>(s_.seed);
        return {VoxelAnswer::State::There,
                c_.store.get(
                    ShapeKey(shape), [&] { return std::make_shared<const media::LoadedGrid>(voxelsOf(shape, c_.job)); },
                    &c_.job)};
    }

    /// An object's fog stays where its object is.
    bool isPlaced() const override { return body_ != ShapeSource::Body::Object; }

private:
    const FreezeContext& c_;
    const VolumeSettings& s_;
    ShapeSource::Body body_;
};
} // namespace

namespace {
struct SeenKey {
    FileVersion version;
    bool operator==(const SeenKey&) const = default;
};

struct RetimedKey {
    std::vector<FileVersion> versions;
    std::vector<float> shares;
    std::vector<media::Wind> winds;
    float sharpens;
    double seconds; ///< of the gas, where it is sharpened
    bool operator==(const RetimedKey&) const = default;
};

/// The baked frames of a plume, as they are or between, and sharper.
class BakedSource final : public VoxelSource {
public:
    BakedSource(const FreezeContext& c, const VolumeSettings& s) : c_(c), s_(s) {}

    VoxelAnswer at(double, VoxelGrid which) const override
    {
        Retiming retiming = retimingOf(c_);
        const auto* plume = settingsOf<PlumeSettings>(&c_.element);
        const auto sharpens = static_cast<float>(plume ? plume->sharpens : 0.0);
        if (!retiming.isOn) {
            retiming.frame = c_.whole.frameNumber();
            retiming.frameSeconds = static_cast<float>((plume ? plume->pace : 1.0) / c_.whole.time.rate.perSecond());
        }
        const auto seen = retiming.isOn || sharpens > 0.f ? remade(retiming, sharpens) : asBaked();
        if (!seen)
            return {};
        if (which == VoxelGrid::Density)
            c_.tell(words("Hottest %1, most smoke %2 g/m³, %3 thousand voxels.",
                          {formatQuantity(std::round(double(seen->temperature.values->most())), Quantity::Temperature),
                           shownNumber(double(seen->density.values->most()), 2),
                           shownNumber(std::round(double(seen->density.values->bricks()) * 0.512), 4)}));
        const double hottest = double(seen->temperature.values->most());
        if (which == VoxelGrid::Heat && s_.glow == "blackbody" && hottest * s_.kelvin < s_.coldest)
            c_.tell(words("Nothing glows at this frame: the hottest is %1, and it is dark below %2.",
                          {formatQuantity(std::round(hottest * s_.kelvin), Quantity::Temperature),
                           formatQuantity(s_.coldest, Quantity::Temperature)}));
        return {VoxelAnswer::State::There, std::make_shared<const media::LoadedGrid>(
                                               which == VoxelGrid::Density ? seen->density : seen->temperature)};
    }
    /// It is where it was simulated.
    bool isPlaced() const override { return false; }

private:
    std::shared_ptr<const sim::SeenGas> asBaked() const
    {
        const auto frame = bakedFrame(c_);
        if (!frame)
            return nullptr;
        return c_.store.get(
            SeenKey{frame->version},
            [&] {
                const Payload payload = frame->read();
                const auto bytes = payload.bytes();
                return std::make_shared<const sim::SeenGas>(sim::seenGas(bytes.subspan(sim::headOf(bytes)), c_.job));
            },
            &c_.job);
    }

    /// Up to four baked frames: two moments that are cross-faded, each between two frames.
    std::shared_ptr<const sim::SeenGas> remade(const Retiming& r, float sharpens) const
    {
        const auto around = measuresOf(&c_.element)->around;
        RetimedKey key;
        std::vector<BakedFrame> frames;
        const auto moment = [&](double frame) {
            const int low = static_cast<int>(std::floor(frame + 1e-6));
            const auto share = static_cast<float>(std::max(0.0, frame - low));
            for (const int at : {low, share > 1e-4f ? low + 1 : low}) {
                const auto baked = r.isOn ? keptFrame(c_.whole, c_.element.id, at, c_.store) : bakedFrame(c_);
                if (!baked) {
                    if (!r.isOn) // said there
                        return false;
                    c_.note("Frame " + std::to_string(at) + ", which is shown here, is not baked.");
                    return false;
                }
                frames.push_back(*baked);
                key.versions.push_back(baked->version);
            }
            key.shares.push_back(share);
            return true;
        };
        if (r.isOver)
            return nullptr;
        if (!moment(r.frame) || (r.fade > 0.f && !moment(r.other)))
            return nullptr;
        key.shares.push_back(r.fade);
        if (r.frame != std::floor(r.frame) || r.fade > 0.f || sharpens > 0.f)
            key.winds = c_.shot.airflow.winds;
        key.sharpens = sharpens;
        key.seconds = sharpens > 0.f ? r.frame * double(r.frameSeconds) : 0.0;
        if (r.isOn)
            c_.tell(words("Shows frame %1.", {shownNumber(r.frame, 5)}));
        return c_.store.get(
            key,
            [&] {
                const auto gas = [&](std::size_t k) {
                    return sim::between(keptGas(frames[2 * k], c_.store), keptGas(frames[2 * k + 1], c_.store),
                                        key.shares[k], r.frameSeconds, key.winds);
                };
                auto shown = r.fade > 0.f ? sim::mixed(gas(1), gas(0), r.fade) : gas(0);
                if (sharpens > 0.f)
                    shown = sim::sharpened(*shown, *keptGas(frames[0], c_.store), sharpens, key.seconds, 1, key.winds);
                return std::make_shared<const sim::SeenGas>(sim::seenGas(*shown, around, c_.job));
            },
            &c_.job);
    }

    const FreezeContext& c_;
    const VolumeSettings& s_;
};
} // namespace

std::unique_ptr<VoxelSource> voxelSource(const FreezeContext& c, const VolumeSettings& s)
{
    using Make = std::function<std::unique_ptr<VoxelSource>(const FreezeContext&, const VolumeSettings&)>;
    const auto form = [](ShapeSource::Body body) -> Make {
        return [body](const FreezeContext& context, const VolumeSettings& settings) {
            return std::make_unique<FormSource>(context, settings, body);
        };
    };
    static const std::vector<std::pair<std::string, Make>> all{
        {"file", [](const FreezeContext& context,
                    const VolumeSettings& settings) { return std::make_unique<FileSource>(context, settings); }},
        {"baked", [](const FreezeContext& context,
                     const VolumeSettings& settings) { return std::make_unique<BakedSource>(context, settings); }},
        {"object", form(ShapeSource::Body::Object)},
        {"box", form(ShapeSource::Body::Box)},
        {"cylinder", form(ShapeSource::Body::Cylinder)},
        {"ball", form(ShapeSource::Body::Ball)},
    };
    for (const auto& [id, make] : all)
        if (id == s.source)
            return make(c, s);
    return all.back().second(c, s);
}
} // namespace hygros::elements
