#pragma once
/// The kinds of element, one file each, and how they come together in a Shot.
///
/// To add a kind: a file beside this one with its settings struct, its table and its contribution; one line in
/// registry.cpp.
#include "elements/kept.h"
#include "scene/project.h"
#include "shot/shot.h"

#include <algorithm>
#include <optional>

namespace hygros::elements {

/// What a kind sees while a project is frozen.
struct FreezeContext {
    const scene::Project& project;
    const scene::Element& element;
    double seconds; ///< time of the frame; frame 1 is at 0
    shot::Shot& shot;
    std::vector<geometry::PlacedSet>& placed;
    Store& store;
    JobControl& job;
    /// Something the artist should know about the element; freezing goes on.
    void note(std::string text) const { shot.notes.push_back({element.id, std::move(text)}); }
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
/// The geometry of a set element where it stands, hidden or not; nothing without a file or for another kind.
std::optional<geometry::PlacedSet> placedSet(const scene::Project& project, const scene::Element& element, Store& store,
                                             JobControl& job);
/// The same for a kind: its file stands among the shot's sources.
std::optional<geometry::PlacedSet> placedSet(const FreezeContext& c, const scene::Element& element);

/// The transform of the set an element is fixed to; nothing when it is fixed to none.
/// Turn of a frame about the vertical, as a bank's turn counts it [rad].
float turnOf(const Mat4& frame);
std::optional<Mat4> frameOf(const scene::Project& project, const std::string& follows, Store& store, JobControl& job);
std::optional<Mat4> frameOf(const FreezeContext& c, const std::string& follows);

struct Kind : scene::ElementKind {
    std::function<void(FreezeContext&)> contribute;
    /// Once everything is in the shot; for what depends on other elements. May be empty.
    std::function<void(FreezeContext&)> complete;
    bool staysWhenSilent = false; ///< the shot and the look are not muted
};

const std::vector<Kind>& kinds();
const scene::ElementKind* findKind(const std::string& id);

/// One frame of the project. Throws an input Error when a set cannot be imported; Cancelled.
std::shared_ptr<const shot::Shot> freeze(const scene::Project& project, Store& store, JobControl& job);

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
