#pragma once
/// The kinds of element, one file each, and how they come together in a Shot.
///
/// To add a kind: a file beside this one with its settings struct, its table and its contribution; one line in
/// registry.cpp.
#include "base/frame_store.h"
#include "base/words.h"
#include "elements/kept.h"
#include "scene/project.h"
#include "shot/shot.h"
#include "sim/solver.h"

#include <algorithm>
#include <optional>

namespace hygros::elements {

/// What file dialogs offer.
inline constexpr const char* geometryFiles = "Geometry (*.glb *.gltf *.obj *.ply *.fbx)";
inline constexpr const char* volumeFiles = "OpenVDB volumes (*.vdb)";
inline constexpr const char* pictureFiles = "Pictures (*.exr *.png *.jpg *.jpeg *.tif *.tiff *.hdr)";
inline constexpr const char* profileFiles = "Photometric profiles (*.ies)";

/// What a kind sees while a project is frozen.
struct FreezeContext {
    const scene::Project& project;
    const scene::Element& element;
    double seconds; ///< time of the frame; frame 1 is at 0; may lie between two frames; within the loop
    shot::Shot& shot;
    std::vector<geometry::PlacedSet>& placed;
    Store& store;
    JobControl& job;
    const scene::Project& whole; ///< the project with its keys
    /// Something the artist should know about the element; freezing goes on.
    void note(const std::string& text) const { shot.notes.push_back({element.id, sentence(text)}); }
    /// A note that is one of the Checks, with what would mend it; counts until the next.
    shot::Note& finding(std::string check, const std::string& text) const
    {
        note(text);
        shot.notes.back().check = std::move(check);
        return shot.notes.back();
    }
    /// Something that is good to know and no trouble.
    void tell(std::string text) const { shot.notes.push_back({element.id, std::move(text), {}, false}); }
    /// What `make` reads from a file, kept by the file's version and `extra` (what else decides); the version that was
    /// read stands among the shot's sources.
    template <class Extra, class Make>
    auto read(const std::filesystem::path& file, const Extra& extra, const Make& make) const
    {
        FileVersion was;
        auto value = keptFromFile(store, job, file, extra, make, &was);
        cameFrom(was);
        return value;
    }
    void cameFrom(const FileVersion& source) const
    {
        if (std::find(shot.sources.begin(), shot.sources.end(), source) == shot.sources.end())
            shot.sources.push_back(source);
    }
};
/// The geometry of an element where it stands, hidden or not; nothing without a file or for a kind that has none.
std::optional<geometry::PlacedSet> placedSet(const scene::Project& project, const scene::Element& element, Store& store,
                                             JobControl& job);
/// The same for a kind: its file stands among the shot's sources.
std::optional<geometry::PlacedSet> placedSet(const FreezeContext& c, const scene::Element& element);

/// Where what an element's places are measured in stands: that of the set it goes with, else the world.
Mat4 frameOf(const scene::Project& project, const scene::Element& element, Store& store, JobControl& job);
/// The transform of what an element is fixed to: a set by its id, or a part of it ("boat/mast": a named node of its
/// file, where its clip has it); nothing when it is fixed to none, or that is not there.
std::optional<Mat4> frameOf(const scene::Project& project, const std::string& follows, Store& store, JobControl& job);
/// Turn of a frame about the vertical, as a bank's turn counts it [rad].
float turnOf(const Mat4& frame);
/// The same for a kind; what is not there is noted.
std::optional<Mat4> carried(const FreezeContext& c, const std::string& follows);
/// Names of what can be gone with of a set; none where its file cannot be read.
std::vector<std::string> partsOf(const scene::Project& project, const std::string& set, Store& store, JobControl& job);

/// Gives the project's camera the place, the aim and the roll of one in the world, also where it goes with something.
void lookFrom(scene::Project& project, const geometry::Camera& from, Store& store);
/// What a set's file brought besides geometry.
struct Taken {
    std::vector<std::string> lamps; ///< ids of the elements made
    bool camera = false;            ///< the project's camera goes with the file's
    int distant = 0;                ///< lamps left out: infinitely far ones are the sun's business
};
/// Makes elements of the lamps that a set's file holds and gives the project's camera the place of its first one; all
/// go with their parts. Lamps that were made before are left as they are. `aspect`: width by height of the picture.
Taken takeFromFile(scene::Project& project, const std::string& set, Store& store, double aspect);

/// What the window shows while an element begins or is fitted.
struct Seen {
    geometry::Camera camera;
    float near = 0.f, middle = 0.f,
          far = 0.f;      ///< depths that 10, 50 and 97 % of the picture lie before [m]; 0: not known
    float exposure = 0.f; ///< of the look [EV]
};

/// The parameters that handles drive, by id; empty where it has none. Aim, cone and range are those of what shines.
struct Handles {
    std::string place, turn, size, aim, cone, range;
};
/// A handle in the Transect: a parameter that is a height (over `zero`, or over the ground under it) or a distance.
struct SectionHandle {
    std::string parameter;
    bool upright = true;
    double zero = 0.0;
    bool overGround = false;
};

/// Everything there is to say of a kind. What is left empty it does not have.
struct Kind : scene::ElementKind {
    /// When it contributes: the camera first, then what stands in the scene, what falls onto that, then what lies on
    /// it (the shot's scene holds the bare sets by then); air may lie on the ground or fill an object.
    enum class Stage { Camera, Set, Falls, Ground, Rest } stage = Stage::Rest;
    std::function<void(FreezeContext&)> contribute;
    /// Once everything is in the shot; for what depends on other elements.
    std::function<void(FreezeContext&)> complete;
    bool staysWhenSilent = false; ///< it is not muted
    bool isCamera = false;        ///< the shot's: its position and aim are where the picture is looked from
    bool onlyLook = false;        ///< says how the picture is shown, not what light there is
    /// Its geometry where it stands, hidden or not.
    std::function<std::optional<geometry::PlacedSet>(const scene::Project&, const scene::Element&, Store&, JobControl&)>
        placed;

    // In Reach: a light has a row (with the sky's own, of which its element has one), air and sets have columns.
    enum class Row { None, Light, LightAndSky } row = Row::None;
    enum class Column { None, Air, Objects } column = Column::None;

    /// All that is set when one parameter is: itself, and what goes along so that the rest stays as it looks.
    std::function<std::vector<std::pair<std::string, scene::Value>>(const scene::Element&, const std::string& parameter,
                                                                    const scene::Value&)>
        along;
    /// What a text that is linked to a "name" can be: those of a file that is at hand (grids, views), and the one that
    /// is taken where it is empty. Reads nothing.
    struct Names {
        std::vector<std::string> all;
        std::string byItself;
    };
    std::function<Names(const scene::Project&, const scene::Element&, const scene::Parameter&, Store&)> names;
    /// A new one, set where it can be seen.
    std::function<void(scene::Element&, const Seen&)> begin;
    /// Brought to the depth of the picture; needs a known depth.
    std::function<void(scene::Element&, const Seen&)> fit;
    /// It comes from a file: what a dialog offers; what is read beforehand, so that a bad file changes nothing (it
    /// throws); and the element that is made of it. `name` is the file's as the project keeps it.
    std::string brings;
    std::function<void(const std::filesystem::path&, Store&, JobControl&)> readBefore;
    std::function<scene::Element&(scene::Project&, const std::filesystem::path&, const std::string& name, const Seen&,
                                  Store&)>
        bring;

    std::function<Handles(const scene::Element&)> handles;
    std::function<std::vector<SectionHandle>(const scene::Element&, bool selected)> section;
    float standsOver = 0.f;           ///< a click sets it down so high over level ground [m]
    std::vector<std::string> actions; ///< what its card offers beside its parameters: names that the window knows
    std::string swatch; ///< the colour stops that stand for it on its card; else what it adds to the picture
    /// It is simulated: what steps an element of this kind by its id (elements/bake.h).
    std::function<std::unique_ptr<sim::Solver>(const std::string& element)> solver;
    bool isGas = false; ///< its baked frames are those of a sim::PlumeSolver
    /// What carries it is another element's baked frames: that element, nothing where there is none. They are baked
    /// first, and `ride` puts them into the shot of a frame (which may lie between two) that it is stepped in.
    std::function<std::optional<std::string>(const scene::Project&, const scene::Element&)> carriedBy;
    std::function<void(const scene::Project&, const scene::Element&, double frame, Store&, shot::Shot&)> ride;
    /// Ids of the elements that what is simulated comes from, beside itself.
    std::function<std::vector<std::string>(const scene::Project&)> comesFrom;
    /// Extinction at full density, for its card [1/m].
    std::function<double(const scene::Element&)> extinction;
};
inline const Kind& kindOf(const scene::Element& e) { return static_cast<const Kind&>(*e.kind); }
/// Its settings if they are of this type; null otherwise.
template <class S> const S* settingsOf(const scene::Element* e)
{
    return e ? dynamic_cast<const S*>(e->settings.get()) : nullptr;
}

const std::vector<Kind>& kinds();
const Kind* findKind(const std::string& id);

/// A file that a project names and that is not there.
struct MissingFile {
    std::string element, parameter;
    std::filesystem::path file;
};
std::vector<MissingFile> missingFiles(const scene::Project& project);
/// Gives a missing file another place, and all others of the same folder that are found beside it there. Returns how
/// many.
int findFiles(scene::Project& project, const std::string& element, const std::string& parameter,
              const std::filesystem::path& file);

/// One frame of the project, seen from its own camera or from `from` (a free look). Throws an input Error when a file
/// cannot be read, also when it is not there unless that is to be told in the notes; Cancelled.
enum class Missing { Refused, Told };
std::shared_ptr<const shot::Shot> freeze(const scene::Project& project, Store& store, JobControl& job,
                                         Missing missing = Missing::Refused,
                                         const std::optional<geometry::Camera>& from = std::nullopt);

/// What stands before the camera while the project's shutter is open at its frame: as many shots as `pieces` at times
/// spread evenly over that; one, at the frame's own time, where nothing that is seen moves meanwhile or the shutter is
/// closed.
std::vector<std::shared_ptr<const shot::Shot>> freezeOpen(const scene::Project& project, Store& store, JobControl& job,
                                                          int pieces, Missing missing = Missing::Refused);
/// How many pieces are worth it for so many samples a pixel.
inline int shutterPieces(int samples) { return std::clamp(samples / 4, 1, 16); }

/// All that a project's picture at its frame comes from, as text: values while the shutter is open, and what adds up
/// until then.
std::string momentOf(const scene::Project& project);
/// What a frame's light depends on, in short: everything of the project but names and the look, the files that
/// `shot` was frozen from as they were then, and the picture's size. Two states that differ in any of it differ in
/// this.
std::string stateOf(const scene::Project& project, const shot::Shot& shot, int width, int height);

/// Writes a volume element of `project` as an OpenVDB file, as it stands in the shot. `voxel` in metres; 0: its own,
/// and where nothing was done to its file's grids they are copied value for value. Throws an input Error when there is
/// nothing to write.
void exportVolume(const scene::Project& project, const std::string& element, const std::filesystem::path& file,
                  float voxel, Store& store, JobControl& job);

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

/// Sets one parameter and what its kind says goes along. An element that is fixed to something else, or to nothing any
/// more, stays where it stands. Throws std::invalid_argument.
void setValue(scene::Project& project, const std::string& element, const std::string& parameter,
              const scene::Value& value, Store& store);
/// A point so far before a camera.
inline Vec3 aheadOf(const geometry::Camera& camera, float metres)
{
    return camera.position + (camera.aim - camera.position).normalized() * metres;
}
/// The camera's element; null in a project without one.
scene::Element* cameraOf(scene::Project& project);

/// Holds a set out of the picture: black with alpha 0 where it stands, hiding and shading as before. "all" is every
/// set. Throws an input Error when there is no such set.
void holdOut(scene::Project& project, const std::string& element);

/// A project with a shot, a look, a sun and nothing else.
scene::Project newProject();
} // namespace hygros::elements
