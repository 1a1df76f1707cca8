#pragma once
/// The picture shown: what it is of, from where it is looked, how far it has come, and what elements add to it.
#include "app/freezer.h"
#include "app/share_map.h"
#include "render/live.h"

#include <QImage>
#include <QObject>
#include <QPointF>
#include <QTimer>
#include <map>
#include <memory>

namespace hygros::app {

struct PictureState {
    QImage image;
    int samples = 0, wanted = 0;
    double secondsSinceEdit = 0.0, secondsPerPass = 0.0, secondsLeft = 0.0;
    bool clean = false;
    std::uint64_t revision = 0;
    int frame = 1;                                    ///< that it shows
    std::shared_ptr<const std::vector<float>> linear; ///< three a pixel of image, scene-linear
    std::shared_ptr<const std::vector<float>> depth;  ///< as many as image's pixels; null before there is any
    double light = 0.0;                               ///< mean luminance, linear; known of the clean picture
};

class Picture : public QObject {
    Q_OBJECT
public:
    explicit Picture(std::shared_ptr<Store> store, QObject* parent = nullptr);
    ~Picture() override;
    /// Ends both threads, which may be asking and telling other parts: before these go.
    void end();

    /// What is to be seen. Nothing is drawn before the first of these.
    void setProject(const scene::Project& project);
    void setSize(const QSize& pixels);
    QSize size() const { return size_; }
    /// Screen pixels for one of the delivered picture; 0: the whole picture fits. `middle`, of the whole picture's
    /// width and height, is what lies in the middle, as far as the picture reaches.
    void setZoom(int times, const QPointF& middle = {0.5, 0.5});
    int zoom() const { return times_; }
    /// Screen pixels along a side for one that is drawn while the whole picture fits: 1, 2 (a quarter of the work)
    /// or 4. A setting of the window's user.
    void setFineness(int pixels);
    int fineness() const { return fineness_; }
    /// What is shown of the whole picture, 0…1 of its width and height.
    QRectF shownPart() const { return part_; }
    /// A place of what is shown in the whole picture, and back.
    QPointF toWhole(const QPointF& shown) const;
    QPointF toShown(const QPointF& whole) const;
    /// Width of the picture that is delivered, as last exported [pixels].
    static int deliveredWidth();
    static void setDeliveredWidth(int pixels);
    /// A region of what is shown that alone is drawn, 0…1; what lies around stays as it was. Null: all of it.
    void setRegion(const QRectF& region);
    const QRectF& region() const { return region_; }
    /// A place of what is shown in what the renderer draws, 0…1; nothing outside.
    std::optional<QPointF> inFrame(const QPointF& shown) const;
    /// The shot's own camera and all of its picture.
    bool isOfShot() const { return !freeCamera_ && times_ == 0 && region_.isNull(); }
    /// Size in pixels of what the renderer draws.
    QSize drawnSize() const;
    /// Of a shot whose camera is the whole's: as it is drawn now.
    std::shared_ptr<const shot::Shot> inPart(const std::shared_ptr<const shot::Shot>& shot) const;
    /// Looks from elsewhere than the shot; empty returns to it.
    void setFreeCamera(std::optional<geometry::Camera> camera);
    const std::optional<geometry::Camera>& freeCamera() const { return freeCamera_; }
    /// The camera of the picture shown.
    geometry::Camera camera() const;
    /// What the camera sees in a picture of a size.
    geometry::View viewIn(const QSize& size) const
    {
        return {camera(), std::max(1, size.width()), std::max(1, size.height())};
    }
    void setWantedSamples(int samples) { renderer_->setWantedSamples(samples); }
    /// Another project: seen from its shot, nothing known of its elements.
    void clear();

    std::shared_ptr<const shot::Shot> shot() const { return shot_; }
    const PictureState& state() const { return state_; }
    /// The picture shown is the clean one of the project as it stands now.
    bool isSettled() const;
    render::LiveRenderer& renderer() { return *renderer_; }
    Freezer& freezer() { return *freezer_; }

    /// Metres to what is seen at a place of the picture, 0…1 of its width and height; 0 while nothing is known.
    float distanceAt(const QPointF& place) const;
    /// That distance for a share of the picture's pixels that are not sky: 0.5 is their middle; 0 while nothing is
    /// known.
    float depthQuantile(double share) const;
    /// What the artist should know of an element, or of all (empty id), as it stands in the shot.
    std::vector<QString> notes(const std::string& element) const;
    /// Whether one of them is trouble, and not only good to know.
    bool isInTrouble(const std::string& element) const;
    /// What an element alone adds.
    QImage thumbnail(const std::string& element) const;
    /// What it adds as a share of the picture's light; null while it is not known.
    std::shared_ptr<const ShareMap> share(const std::string& element) const;
    /// What elements and lamps take of a pass, as shares measured by the renderer.
    const render::Costs& costs() const { return costs_; }
    /// "12 ms  8 %" of a pass, or empty while nothing was measured.
    QString costText(const std::string& element) const;
    /// Flat tones the picture is shown in, to judge its staging: 3…7; 0 shows it as it is.
    int valueStudy() const { return valueStudy_; }
    void setValueStudy(int tones);
    /// Whether paths beside the march say how much light there is (render/path_ratios.h); a setting of the window's
    /// user, on from the start.
    bool followsPaths() const { return followsPaths_; }
    void setFollowsPaths(bool follows);

Q_SIGNALS:
    void shotChanged();
    void pictureChanged();
    void cameraChanged(); ///< free, or the shot's again; or another part of the picture
    void staled();        ///< what is shown is not what is wanted any more
    void thumbnailChanged(const QString& element);
    void costsChanged();
    void failed(const QString& message);

private:
    static int savedFineness();
    void refreeze();
    void redraw();
    void updateDrawn();
    void take(PictureState state);
    void putInto(PictureState& state) const;
    void askThumbnails();
    void askCosts();

    std::optional<scene::Project> project_;
    std::optional<geometry::Camera> freeCamera_;
    std::shared_ptr<const shot::Shot> shot_;
    PictureState state_;
    QSize size_{8, 8};
    int times_ = 0, fineness_ = savedFineness();
    QPointF middle_{0.5, 0.5};
    QRectF part_{0, 0, 1, 1}, region_;
    PictureState around_; ///< what stood when the region began
    std::map<std::string, QImage> thumbnails_;
    std::map<std::string, std::shared_ptr<const ShareMap>> shares_;
    /// The newest whole picture in linear light; the renderer's thread alone has to do with it.
    struct Linear {
        int width = 0, height = 0;
        std::vector<float> rgb;
    } linear_;
    render::Costs costs_;
    int valueStudy_ = 0;
    bool followsPaths_ = true;
    QTimer thumbnailTimer_;
    /// What the renderer draws; guarded, as shots are handed over on a freezing thread.
    struct Drawn {
        int width = 8, height = 8;
        geometry::PicturePart part;
    };
    Drawn drawn() const;
    /// A shot to the renderer, unless another part is to be drawn by now.
    void hand(const std::shared_ptr<const shot::Shot>& shot);
    std::uint64_t leastRevision_ = 0; ///< pictures of earlier ones show another part
    mutable std::mutex drawnMutex_;
    Drawn drawn_;
    std::atomic<std::uint64_t> lastRevision_{0}; ///< of the newest shot handed to the renderer
    std::unique_ptr<render::LiveRenderer> renderer_;
    std::unique_ptr<Freezer> freezer_;
};
} // namespace hygros::app
