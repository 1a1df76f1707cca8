#pragma once
/// The reference picture beside the live one: when it begins, where it is kept, and how both compare.
#include "app/picture.h"
#include "render/reference.h"

namespace hygros::app {

/// The reference picture of the state shown.
struct ReferenceState {
    QImage image;
    double paths = 0.0;
    float noise = 1.f; ///< of the paths; 1 while it is not known
    bool denoised = false;
    double ratio = 0.0; ///< mean light of the live picture ÷ that of the reference; 0 while not known
    bool done = false;
    bool firstLook = false; ///< smaller than the picture, and denoised
    /// What is left of noise, and whether the picture shows it.
    QString noiseInWords() const;
};

class Reference : public QObject {
    Q_OBJECT
public:
    /// `project` is what the picture shows, by the time it is asked; nothing while that is not the project (a recipe's
    /// preview).
    Reference(Picture& picture, std::function<std::optional<scene::Project>()> project, QObject* parent = nullptr);

    /// Which picture the window shows: the live one, the reference (path-traced, once the live one is clean), or both
    /// beside each other.
    enum class Shown { Live, Both, Reference };
    void setShown(Shown shown);
    Shown shown() const { return shown_; }
    /// The picture is held against it: it is rendered though it is not shown itself.
    void setCompared(bool compared);
    const ReferenceState& state() const { return state_; }
    /// What is left of noise when the reference ends, and how much of the denoised picture is shown; both 0…1.
    void setGoal(float noise, float denoise);
    float noise() const { return noise_; }
    float denoise() const { return denoise_; }

Q_SIGNALS:
    void referenceChanged();
    void failed(const QString& message);

private:
    void start();
    void drop();
    void take(const render::ReferencePicture& picture, const QImage& image);
    Picture& picture_;
    std::function<std::optional<scene::Project>()> project_;
    bool isWanted() const { return shown_ != Shown::Live || compared_; }
    Shown shown_ = Shown::Live;
    bool compared_ = false;
    ReferenceState state_;
    float noise_ = 0.02f, denoise_ = 1.f;
    std::uint64_t of_ = 0; ///< the live revision it answers
    std::unique_ptr<render::ReferenceRenderer> renderer_;
};
} // namespace hygros::app
