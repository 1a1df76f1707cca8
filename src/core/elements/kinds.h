#pragma once
/// The kinds of element, one file each, and how they come together in a Shot.
///
/// To add a kind: a file beside this one with its settings struct, its table and its contribution; one line in
/// registry.cpp.
#include "elements/volume_shape.h"
#include "media/vdb_tools.h"
#include "scene/project.h"
#include "shot/shot.h"

#include <map>
#include <mutex>
#include <optional>

namespace hygros::elements {

/// Imported sets and built ray structures, kept by the content they came from. Safe to use from many threads.
class GeometryCache {
public:
    /// The set in `file`, imported unless this very version of the file is at hand. Throws as importSet does.
    std::shared_ptr<const geometry::SetGeometry> set(const std::filesystem::path& file, JobControl& job);
    std::shared_ptr<const geometry::RayScene> scene(const std::vector<geometry::PlacedSet>& placed, JobControl& job);
    /// A scene that lights whose Reach leaves something out are shaded by.
    std::shared_ptr<const geometry::RayScene> shadows(const std::vector<geometry::PlacedSet>& placed, JobControl& job);

private:
    struct Entry {
        std::filesystem::file_time_type modified;
        std::uintmax_t size = 0;
        std::shared_ptr<const geometry::SetGeometry> set;
    };
    template <class Key, class Value> struct Kept {
        Key key;
        std::shared_ptr<const Value> value;
    };
    std::mutex mutex_;
    std::map<std::filesystem::path, Entry> sets_;
    std::vector<geometry::PlacedSet> lastPlaced_;
    std::shared_ptr<const geometry::RayScene> lastScene_;
    light::SkySettings lastSkySettings_;
    std::shared_ptr<const light::Sky> lastSky_;
    struct GroundKey {
        std::shared_ptr<const geometry::RayScene> scene;
        media::GroundSettings settings;
        bool operator==(const GroundKey&) const = default;
    };
    // The last few of each, newest first.
    std::vector<Kept<GroundKey, media::GroundHeights>> grounds_;
    std::vector<Kept<geometry::PlacedSet, media::InsideField>> insides_;
    std::vector<Kept<std::vector<geometry::PlacedSet>, geometry::RayScene>> shadowScenes_;
    struct PlateKey {
        geometry::PlateSource source;
        std::filesystem::file_time_type picture, depth; ///< when they were last changed
        bool operator==(const PlateKey&) const = default;
    };
    std::vector<Kept<PlateKey, geometry::Plate>> plates_;
    struct ReliefKey {
        std::shared_ptr<const geometry::Plate> plate;
        float focalMm, sensorMm;
        bool operator==(const ReliefKey&) const = default;
    };
    std::vector<Kept<ReliefKey, geometry::SetGeometry>> reliefs_;
    struct DeckKey {
        media::CloudDeck deck;
        Vec3 sun, eye;
        bool operator==(const DeckKey& o) const { return deck.sameAs(o.deck) && sun == o.sun && eye == o.eye; }
    };
    std::vector<Kept<DeckKey, media::DeckShadow>> deckShadows_;
    struct FileKey {
        std::filesystem::path file;
        std::filesystem::file_time_type modified;
        float softness = 0.f;
        bool operator==(const FileKey&) const = default;
    };
    std::vector<Kept<FileKey, light::Profile>> profiles_;
    struct GridKey {
        std::filesystem::path file;
        std::filesystem::file_time_type modified;
        std::string name;
        bool operator==(const GridKey&) const = default;
    };
    std::vector<Kept<GridKey, media::LoadedGrid>> grids_;
    std::vector<Kept<ShapeSource, media::LoadedGrid>> shapes_;
    struct CoarseKey {
        std::shared_ptr<const media::BrickGrid> grid;
        int times;
        bool operator==(const CoarseKey&) const = default;
    };
    std::vector<Kept<CoarseKey, media::BrickGrid>> coarseGrids_;
    std::vector<Kept<FileKey, std::vector<media::VdbGrid>>> volumeFiles_;
    struct WorkedKey {
        std::shared_ptr<const media::LoadedGrid> base;
        Mat4 toWorld;
        std::vector<media::GridStep> steps;
        bool operator==(const WorkedKey&) const = default;
    };
    std::vector<Kept<WorkedKey, media::LoadedGrid>> worked_;
    struct MovedKey {
        std::filesystem::path file;
        std::filesystem::file_time_type modified;
        std::string name, velocity;
        double seconds;
        float power;
        bool operator==(const MovedKey&) const = default;
    };
    std::vector<Kept<MovedKey, media::LoadedGrid>> moved_;
    struct DistanceKey {
        geometry::PlacedSet set;
        Vec3 low, high;
        float reach;
        bool operator==(const DistanceKey&) const = default;
    };
    std::vector<Kept<DistanceKey, media::DistanceField>> distances_;
    struct VolumeShadowKey {
        std::shared_ptr<const media::BrickGrid> grid;
        Mat4 toIndex;
        Vec3 sun;
        int most;
        bool operator==(const VolumeShadowKey&) const = default;
    };
    std::vector<Kept<VolumeShadowKey, media::VolumeShadow>> volumeShadows_;
    struct GlowKey {
        media::Volume volume;
        bool operator==(const GlowKey& o) const { return volume.sameAs(o.volume); }
    };
    std::vector<Kept<GlowKey, std::vector<light::Lamp>>> glowLamps_;
    std::vector<Kept<FileKey, light::Panorama>> panoramas_;
    std::vector<Kept<FileKey, light::Gobo>> goboPictures_;
    std::vector<Kept<light::Gobo::Settings, light::Gobo>> goboPatterns_;
    struct PlacedGoboKey {
        std::shared_ptr<const light::Gobo> gobo;
        light::Gobo::Placing placing;
        bool operator==(const PlacedGoboKey&) const = default;
    };
    std::vector<Kept<PlacedGoboKey, light::Gobo>> goboPlaced_;

public:
    std::shared_ptr<const light::Sky> sky(const light::SkySettings& settings);
    /// `settings.around` is brought to a coarse grid, so that small camera moves keep the ground.
    std::shared_ptr<const media::GroundHeights> ground(const std::shared_ptr<const geometry::RayScene>& scene,
                                                       media::GroundSettings settings, JobControl& job);
    std::shared_ptr<const geometry::Plate> plate(const geometry::PlateSource& source);
    std::shared_ptr<const geometry::SetGeometry> relief(const std::shared_ptr<const geometry::Plate>& plate,
                                                        float focalMm, float sensorMm);
    std::shared_ptr<const media::DeckShadow> deckShadow(const media::CloudDeck& deck, const Vec3& sun, const Vec3& eye);
    /// What grids a volume file holds; one of them; and the same made coarser by halves.
    std::shared_ptr<const std::vector<media::VdbGrid>> volumeFile(const std::filesystem::path& file);
    /// The first of these if it is at hand; null otherwise. Reads nothing, so a window may ask.
    std::shared_ptr<const std::vector<media::VdbGrid>> volumeFileAtHand(const std::filesystem::path& file);
    std::shared_ptr<const media::LoadedGrid> shape(const ShapeSource& source, JobControl& job);
    std::shared_ptr<const media::LoadedGrid> grid(const std::filesystem::path& file, const std::string& name,
                                                  JobControl& job);
    std::shared_ptr<const media::BrickGrid> coarser(const std::shared_ptr<const media::BrickGrid>& grid, int times,
                                                    JobControl& job);
    /// The lamps that stand for a volume's glow, from `build` unless the same volume's are at hand.
    std::shared_ptr<const std::vector<light::Lamp>> glowLamps(const media::Volume& volume,
                                                              const std::function<std::vector<light::Lamp>()>& build);
    std::shared_ptr<const media::VolumeShadow> volumeShadow(const media::Volume& volume, const Vec3& sun,
                                                            int most = media::VolumeShadow::most);
    /// Grids after work on them, and blurred by their motion.
    std::shared_ptr<const media::LoadedGrid> worked(const std::shared_ptr<const media::LoadedGrid>& base,
                                                    const Mat4& toWorld, const std::vector<media::GridStep>& steps,
                                                    JobControl& job);
    std::shared_ptr<const media::LoadedGrid> moved(const std::filesystem::path& file, const std::string& name,
                                                   const std::string& velocity, double seconds, JobControl& job,
                                                   float power = 1.f);
    /// How far a set's surface is from places in `bounds`, up to `reach` metres.
    std::shared_ptr<const media::DistanceField> distance(const geometry::PlacedSet& set, const Box3& bounds,
                                                         float reach, JobControl& job);
    std::shared_ptr<const media::InsideField> inside(const geometry::PlacedSet& mesh, JobControl& job);
    std::shared_ptr<const light::Profile> profile(const std::filesystem::path& file);
    std::shared_ptr<const light::Panorama> panorama(const std::filesystem::path& file);
    std::shared_ptr<const light::Gobo> gobo(const light::Gobo::Settings& settings);
    std::shared_ptr<const light::Gobo> gobo(const std::filesystem::path& file, float softness);
    std::shared_ptr<const light::Gobo> placed(const std::shared_ptr<const light::Gobo>& gobo,
                                              const light::Gobo::Placing& placing);
};

/// What a kind sees while a project is frozen.
struct FreezeContext {
    const scene::Project& project;
    const scene::Element& element;
    double seconds; ///< time of the frame; frame 1 is at 0
    shot::Shot& shot;
    std::vector<geometry::PlacedSet>& placed;
    GeometryCache& cache;
    JobControl& job;
    /// Something the artist should know about the element; freezing goes on.
    void note(std::string text) const { shot.notes.push_back({element.id, std::move(text)}); }
};
/// The geometry of a set element where it stands, hidden or not; nothing without a file or for another kind.
std::optional<geometry::PlacedSet> placedSet(const scene::Project& project, const scene::Element& element,
                                             GeometryCache& cache, JobControl& job);

/// The transform of the set an element is fixed to; nothing when it is fixed to none.
/// Turn of a frame about the vertical, as a bank's turn counts it [rad].
float turnOf(const Mat4& frame);
std::optional<Mat4> frameOf(const scene::Project& project, const std::string& follows, GeometryCache& cache,
                            JobControl& job);

struct Kind : scene::ElementKind {
    std::function<void(FreezeContext&)> contribute;
    /// Once everything is in the shot; for what depends on other elements. May be empty.
    std::function<void(FreezeContext&)> complete;
    bool staysWhenSilent = false; ///< the shot and the look are not muted
};

const std::vector<Kind>& kinds();
const scene::ElementKind* findKind(const std::string& id);

/// One frame of the project. Throws an input Error when a set cannot be imported; Cancelled.
std::shared_ptr<const shot::Shot> freeze(const scene::Project& project, GeometryCache& cache, JobControl& job);

/// What a frame's light depends on, in short: everything of the project but names and the look, its files' sizes and
/// ages, and the picture's size. Two states that differ in any of it differ in this.
std::string stateOf(const scene::Project& project, int width, int height);

/// Writes a volume element of `project` as an OpenVDB file, as it stands in the shot. `voxel` in metres; 0: its own,
/// and where nothing was done to its file's grids they are copied value for value. Throws an input Error when there is
/// nothing to write.
void exportVolume(const scene::Project& project, const std::string& element, const std::filesystem::path& file,
                  float voxel, GeometryCache& cache, JobControl& job);

/// What a volume's matter does to light where its grid is 1.
struct VolumeLook {
    Vec3 scattering, absorption; ///< by channel [1/m]
    media::Phase phase;
};
VolumeLook lookOf(const scene::Element& volume);
/// The same after its density was multiplied while it is linked so ("albedo", "scattering", "free": there its
/// scattering grows).
VolumeLook denserLook(const scene::Element& volume, const std::string& linking, double times);
/// The settings that link a volume's coefficients another way and leave its look as it is, as far as that way can tell
/// it.
std::vector<std::pair<std::string, scene::Value>> relinked(const scene::Element& volume, const std::string& linking);

/// Holds a set out of the picture: black with alpha 0 where it stands, hiding and shading as before. "all" is every
/// set. Throws an input Error when there is no such set.
void holdOut(scene::Project& project, const std::string& element);

/// A project with a shot, a look, a sun and nothing else.
scene::Project newProject();

// The kinds of this version.
Kind allAirKind();
Kind hazeKind();
Kind fogBankKind();
Kind cloudDeckKind();
Kind volumeKind();
Kind tintKind();
Kind combinationKind();
Kind copiesKind();
Kind veilKind();
Kind plateKind();
Kind sunKind();
Kind spotKind();
Kind bulbKind();
Kind panelKind();
Kind tubeKind();
Kind beamKind();
Kind setKind();
Kind shotKind();
Kind lookKind();
} // namespace hygros::elements
