#pragma once
/// One frozen frame: everything a renderer needs, as values. Immutable once built and shared between threads;
/// parts that cost time to build are shared by pointer and keep their identity while their content stays.
#include "base/store.h"
#include "geometry/camera.h"
#include "geometry/plate.h"
#include "geometry/ray_scene.h"
#include "light/lamp.h"
#include "light/sky.h"
#include "media/deck.h"
#include "media/embers.h"
#include "media/falling.h"
#include "media/force.h"
#include "media/hot_air.h"
#include "media/medium.h"
#include "media/particles.h"
#include "media/plume.h"
#include "media/sparks.h"
#include "media/veil.h"
#include "media/volume.h"
#include "media/wind.h"

#include <memory>
#include <string>
#include <vector>

namespace hygros::image {
class ColourTable;
class ColourView;
} // namespace hygros::image
namespace hygros::shot {

/// How the linear picture becomes a displayed one; read by finish/.
struct Look {
    float exposure = 0.f; ///< EV; display = radiance · 2^exposure before the curve
    float white = 6500.f; ///< colour temperature of the light that is to look neutral [K]
    /// Monotone points: x in stops around 0.18, y displayed light 0…1.
    std::vector<Vec2> curve;
    float pales = 0.f;      ///< 0…1: how much of its colour light far above white loses (finish/display.h)
    float glow = 0.f;       ///< share of the light above `glowFrom` that the lens scatters around, 0…1
    float glowFrom = 1.f;   ///< stops above white
    float glowReach = 0.2f; ///< largest circle as a share of the picture's height
    /// What the picture passes last (finish/display.h); null: none.
    std::shared_ptr<const image::ColourTable> table = nullptr;
    /// What that table takes: the displayed picture; light in stops from `tableFrom` to `tableTo` around 0.18; or light
    /// as ACEScct. With light it stands in place of the curve, and of `pales`.
    enum class TableTakes { Displayed, Stops, AcesCct } tableTakes = TableTakes::Displayed;
    float tableFrom = -10.f, tableTo = 6.5f;
    float tableShare = 1.f; ///< 0…1 of it beside the picture without
    /// A colour configuration's view that shows the picture, in place of curve, `pales` and the display's encoding;
    /// null: none.
    std::shared_ptr<const image::ColourView> view = nullptr;
    bool operator==(const Look&) const = default;
};

/// Something found while the frame was frozen that the artist should know; `element` is whose.
struct Note {
    std::string element, text;
    std::string missing = {}; ///< the parameter whose file is not there; empty: something else
    bool isTrouble = true;    ///< else it is only good to know
    /// Which of the Checks it is; empty: a note as any other. What is no trouble is among them by this alone.
    std::string check = {};
    /// What would mend it: said on the button, "element.parameter" and values as text, or baking the element.
    std::string mends = {};
    std::vector<std::pair<std::string, std::string>> settings = {};
    bool bakes = false;
    bool operator==(const Note&) const = default;
};

/// What is neither even air nor a surface, a list a kind. Bodies are numbered through the lists in this order. A new
/// kind is a list here, a line in each(), and a class in render/ (render/bodies.h).
struct Bodies {
    std::vector<media::Volume> volumes;
    std::vector<media::CloudDeck> decks; ///< settled
    bool operator==(const Bodies&) const = default;
    /// Calls use(body) for all of them.
    template <class Use> static void each(auto& bodies, const Use& use)
    {
        for (auto& v : bodies.volumes)
            use(v);
        for (auto& d : bodies.decks)
            use(d);
    }
    std::vector<std::string> bodyIds() const
    {
        std::vector<std::string> out;
        each(*this, [&](const auto& body) { out.push_back(body.id); });
        return out;
    }
};

/// How the air moves. It is not seen; what it moves is.
struct Airflow {
    std::vector<media::Wind> winds;
    std::vector<media::Force> forces;
    std::vector<media::Tracers> tracers;
    std::vector<media::Plume> plumes;
    std::vector<media::Embers> embers;
    std::vector<media::Particles> particles;
    bool operator==(const Airflow&) const = default;
};

struct Shot : Bodies {
    std::shared_ptr<const geometry::RayScene> scene; ///< never null; may hold no triangle
    std::vector<geometry::PlacedWater> waters;       ///< in the scene too
    std::vector<media::Medium> media;                ///< those that are not muted; all may overlap
    std::vector<media::Veil> veils;                  ///< laid over the picture in this order
    std::shared_ptr<const geometry::Plate> plate;    ///< null: none
    float plateSky = 1.f;                            ///< how much the air covers the plate's sky, 0…1
    std::shared_ptr<const light::Sky> sky;           ///< null: no sun and no sky
    std::string sunId;                               ///< the element the sky came from
    std::vector<light::Lamp> lamps;
    /// What Hit::set means: the placed set's element, and after a slash the object where it has several.
    std::vector<std::string> setIds;
    /// What shades the sun, where that is not all of the scene; null: the scene.
    std::shared_ptr<const geometry::RayScene> sunShadows;
    const geometry::RayScene& shadowsOfSun() const { return sunShadows ? *sunShadows : *scene; }
    const geometry::RayScene& shadowsOf(const light::Lamp& lamp) const
    {
        return lamp.shadowScene ? *lamp.shadowScene : *scene;
    }
    /// Reach of the sun and of the sky: strength in each medium, body and placed set; empty: 1 everywhere.
    struct SkyReach {
        std::vector<float> media, bodies, sets;
        bool operator==(const SkyReach&) const = default;
    } sunReach, skyReach;
    /// The sun's and the sky's strength on sets where it is the same on all of them.
    struct SetReach {
        bool even = true;
        float sun = 1.f, sky = 1.f;
    };
    SetReach setReach() const;
    Airflow airflow;
    std::vector<media::HotAir> hotAir;   ///< bends the light of the whole picture that goes through it
    std::vector<media::Falling> falling; ///< drawn over the picture near the eye
    std::vector<media::Sparks> sparks;   ///< drawn over the picture, dimmed by what lies before them
    geometry::Camera camera;
    Look look;
    std::vector<Note> notes;
    std::vector<FileVersion> sources; ///< the files that it was frozen from, as they were then
    float airDensity = 1.f;           ///< what all densities were multiplied with
    int frame = 1;
    int scatteringOrders = 3; ///< of the live air: 1 is single scattering alone, 3 adds the higher-order approximation

    bool operator==(const Shot&) const = default;

    /// Rays that miss everything end here [m].
    static constexpr float farDistance = 30000.f;
};
/// Height of the matte ground on which the air lies beyond the set [m]: under everything in the shot, and not above 0.
/// It sends light up into the air; the eye does not see it.
float groundLevel(const Shot& shot);
} // namespace hygros::shot
