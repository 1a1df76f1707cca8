#pragma once
/// The open project and everything that happens to it: edits with undo, files, freezing, live pictures, jobs.
/// Widgets ask it and tell it; it tells them with signals on the window's thread.
#include "base/job.h"
#include "elements/kinds.h"
#include "reading/planes.h"
#include "render/live.h"
#include "render/reference.h"
#include "scene/history.h"
#include "scene/recipe.h"

#include <QImage>
#include <QObject>
#include <QPointF>
#include <QTimer>
#include <condition_variable>
#include <memory>
#include <optional>
#include <thread>

namespace hygros::app {

/// What the file dialogs offer.
inline const char* const geometryFiles = "Geometry (*.glb *.gltf *.obj *.ply *.fbx)";
inline const char* const volumeFiles = "OpenVDB volumes (*.vdb)";
inline const char* const pictureFiles = "Pictures (*.exr *.png *.jpg *.jpeg *.tif *.tiff *.hdr)";

struct PictureState {
    QImage image;
    int samples = 0, wanted = 0;
    double secondsSinceEdit = 0.0, secondsPerPass = 0.0;
    bool clean = false;
    std::uint64_t revision = 0;
    std::shared_ptr<const std::vector<float>> depth; ///< as many as image's pixels; null before there is any
    double light = 0.0;                              ///< mean luminance, linear; known of the clean picture
};

/// The reference picture of the state shown, and how the live one compares.
struct ReferenceState {
    QImage image;
    double paths = 0.0;
    float noise = 1.f;  ///< 1 while it is not known
    double ratio = 0.0; ///< mean light of the live picture ÷ that of the reference; 0 while not known
    bool done = false;
};

class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    const scene::Project& project() const { return history_.now(); }
    const scene::History& history() const { return history_; }
    QString file() const { return file_; }
    bool hasUnsavedChanges() const { return changed_; }

    /// Applies `change` to a copy and makes it the present as one undo step (`merge` joins the steps of a drag).
    /// What the change throws as std::invalid_argument is shown; nothing is changed then. False on refusal.
    bool edit(const QString& name, const std::function<void(scene::Project&)>& change, const QString& merge = {});
    bool setValue(const std::string& element, const std::string& parameter, const scene::Value& value,
                  const QString& merge = {});
    void endDrag() { history_.close(); }
    /// Where what an element's points are measured in stands: that of the set it goes with, else the world.
    Mat4 frameOf(const std::string& element);
    /// A point setting in the world, and setting it so.
    Vec3 placeOf(const std::string& element, const std::string& parameter);
    bool setPlace(const std::string& element, const std::string& parameter, const Vec3& world,
                  const QString& merge = {});
    void undo();
    void redo();

    /// Recipes that ship with the program.
    std::vector<scene::Recipe> recipes();
    /// Puts a recipe into the project as one step.
    void takeRecipe(const scene::Recipe& recipe);
    /// Whether a recipe's distances are brought to the set's depth when it is previewed or taken.
    void setFitsRecipes(bool fits) { fitsRecipes_ = fits; }
    bool fitsRecipes() const { return fitsRecipes_; }
    /// What a recipe's lengths would be multiplied with.
    double recipeScale(const scene::Recipe& recipe) const;
    /// Where a recipe that stands before the camera stands now.
    Vec3 recipePlace(const scene::Recipe& recipe) const;
    /// Shows the picture as it would be with the recipe, the project untouched; null ends it.
    void preview(const scene::Recipe* recipe);

    void newProject();
    /// Loads with its sets in the background; the present project stays until all of it is there.
    void open(const QString& file);
    /// The same for the file the window starts with: nothing is drawn of the empty project meanwhile.
    void openAtStart(const QString& file);
    /// False and a message when it fails.
    bool save(const QString& file);
    void importSet(const QString& file);
    /// Makes a plate of a picture, with the depth in it if there is one.
    void importPlate(const QString& file);
    /// Writes a volume of the present shot as an OpenVDB file, as a job; `voxel` in metres, 0 takes its own.
    void exportVolume(const std::string& element, const QString& file, float voxel);
    /// A new volume from an OpenVDB file, standing on the ground in front of the camera; a file that cannot be read is
    /// said and nothing changes.
    void importVolume(const QString& file);
    /// Metres to what is seen at a place of the picture, 0…1 of its width and height; 0 while nothing is known.
    float distanceAt(const QPointF& place) const;
    /// That distance for a share of the picture's pixels that are not sky: 0.5 is their middle; 0 while nothing is
    /// known.
    float depthQuantile(double share) const;
    /// Brings a veil's near and far to the picture's depth, and its brightness to the exposure.
    void fitVeil(const std::string& element);
    /// What the artist should know of an element, or of all (empty id), as it stands in the shot.
    std::vector<QString> notes(const std::string& element) const;
    QStringList recentFiles() const;

    /// A long task on its own thread with progress and cancel; `done` runs on the window's thread if it succeeds.
    void runJob(const QString& name, const std::function<void(JobControl&)>& work, const std::function<void()>& done);
    bool isBusy() const { return static_cast<bool>(job_); }
    void cancelJob();

    void setPictureSize(const QSize& pixels);
    /// Looks from elsewhere than the shot; empty returns to it.
    void setFreeCamera(std::optional<geometry::Camera> camera);
    const std::optional<geometry::Camera>& freeCamera() const { return freeCamera_; }
    /// The camera of the picture shown.
    geometry::Camera camera() const;

    std::shared_ptr<const shot::Shot> shot() const { return shot_; }
    const PictureState& picture() const { return picture_; }
    /// The picture shown is the clean one of the project as it stands now.
    bool isSettled();
    render::LiveRenderer& renderer() { return *renderer_; }
    Store& store() { return *store_; }
    QImage thumbnail(const std::string& element) const;
    void setWantedSamples(int samples) { renderer_->setWantedSamples(samples); }

    /// Which picture the window shows: the live one, the reference (path-traced, once the live one is clean), or both
    /// beside each other.
    enum class Shown { Live, Both, Reference };
    void setShown(Shown shown);
    Shown shown() const { return shown_; }
    const ReferenceState& reference() const { return reference_; }
    /// What is left of noise when the reference ends, and how much of the denoised picture is shown; both 0…1.
    void setReferenceGoal(float noise, float denoise);
    float referenceNoise() const { return referenceNoise_; }
    float referenceDenoise() const { return referenceDenoise_; }

    /// The planes of the picture shown, with its air and without; empty before the first full picture.
    const reading::Planes& planes() const { return readings_.planes; }
    const reading::Planes& planesWithoutAir() const { return readings_.without; }
    /// What elements and lamps take of a pass, as shares measured by the renderer.
    const render::Costs& costs() const { return costs_; }
    /// "12 ms  8 %" of a pass, or empty while nothing was measured.
    QString costText(const std::string& element) const;
    /// Measuring takes the renderer's time: only while somebody looks.
    void setReadingsWanted(bool wanted);
    /// Distances that part the planes [m]; an empty list gives them back to the picture's depth.
    const std::vector<float>& planeBorders() const { return ownBorders_.empty() ? readings_.borders : ownBorders_; }
    void setPlaneBorders(std::vector<float> borders);
    /// Pins on the picture, 0…1 of its width and height, and the soundings under them.
    const std::vector<QPointF>& pins() const { return pins_; }
    int chosenPin() const { return chosenPin_; }
    void addPin(const QPointF& place);
    void choosePin(int index);
    void removePin(int index);
    /// Of the chosen pin; null when there is none, not known() before it is measured.
    const render::Sounding* sounding() const;
    /// Flat tones the picture is shown in, to judge its staging: 3…7; 0 shows it as it is.
    int valueStudy() const { return valueStudy_; }
    void setValueStudy(int tones);

    /// Which element is hovered or selected anywhere; empty for none.
    void setHovered(const std::string& element);
    const std::string& hovered() const { return hovered_; }
    /// The place under the cursor in the Picture, 0…1 of its width and height; negative for none: the Transect follows
    /// it.
    void setCursorPlace(const QPointF& place);
    const QPointF& cursorPlace() const { return cursorPlace_; }
    /// What the line of sight under the cursor meets, from the renderer's own march; not known() while there is none.
    const render::Sounding& sight() const { return sight_; }
    /// A distance pointed at in the Transect [m]; 0 for none: the Picture shows where it lies.
    void setCursorDistance(double metres);
    double cursorDistance() const { return cursorDistance_; }
    /// Something that is being done by clicking in the Picture.
    struct Task {
        enum What { Nothing, KnownLength, Horizon, PlaceLamp, AimLamp } what = Nothing;
        std::string element;
    };
    void begin(const Task& task);
    const Task& task() const { return task_; }
    /// The element whose handles stand in Picture and Transect; empty for none.
    void setSelected(const std::string& element);
    const std::string& selected() const { return selected_; }

Q_SIGNALS:
    void projectChanged();  ///< anything in it
    void projectReplaced(); ///< another project
    void shotChanged();
    void pictureChanged();
    void thumbnailChanged(const QString& element);
    void hoveredChanged();
    void taskChanged();
    void cursorPlaceChanged(); ///< or what is known of its line of sight
    void cursorDistanceChanged();
    void costsChanged();
    void referenceChanged();
    void readingsChanged(); ///< planes, pins or soundings
    void failed(const QString& message);
    void jobChanged(const QString& name, double progress, const QString& message); ///< empty name: over
    void fileChanged();

private:
    void changedProject();
    void refreeze();
    void freezeLoop();
    void askThumbnails();
    void askReadings();
    void askCosts();
    void startReference();
    void dropReference();
    void takeReference(const render::ReferencePicture& picture, const QImage& image);
    void replace(scene::Project project, const QString& file);
    void remember(const QString& file);

    scene::History history_;
    QString file_;
    bool changed_ = false, quiet_ = false; ///< quiet: nothing is frozen
    std::shared_ptr<Store> store_;
    std::optional<geometry::Camera> freeCamera_;
    std::optional<scene::Project> previewed_;
    std::shared_ptr<const shot::Shot> shot_;
    PictureState picture_;
    QSize pictureSize_{8, 8};
    std::map<std::string, QImage> thumbnails_;
    std::string hovered_, selected_;
    bool fitsRecipes_ = false;
    Task task_;
    QPointF cursorPlace_{-1, -1};
    double cursorDistance_ = 0.0;
    render::Sounding sight_;
    QTimer thumbnailTimer_, jobTimer_, readingTimer_;
    struct Readings {
        reading::Planes planes, without;
        std::vector<float> borders;
    };
    Readings readings_;
    render::Costs costs_;
    std::vector<float> ownBorders_;
    std::vector<QPointF> pins_;
    std::vector<render::Sounding> soundings_; ///< as many as pins
    int chosenPin_ = -1, valueStudy_ = 0;
    bool readingsWanted_ = false;

    struct Job {
        QString name;
        JobControl control;
        std::thread thread;
    };
    std::shared_ptr<Job> job_;

    // The freezing thread takes the newest project only.
    struct Pending {
        scene::Project project;
        std::optional<geometry::Camera> camera;
        QSize size;
    };
    std::mutex freezeMutex_;
    std::condition_variable freezeWake_;
    std::unique_ptr<Pending> pending_;
    bool quit_ = false, freezing_ = false;
    std::uint64_t lastRevision_ = 0; ///< of the newest shot handed to the renderer
    Shown shown_ = Shown::Live;
    ReferenceState reference_;
    float referenceNoise_ = 0.02f, referenceDenoise_ = 1.f;
    std::uint64_t referenceOf_ = 0; ///< the live revision it answers
    std::unique_ptr<render::ReferenceRenderer> referenceRenderer_;
    std::unique_ptr<render::LiveRenderer> renderer_;
    std::thread freezer_;
};
} // namespace hygros::app
