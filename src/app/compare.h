#pragma once
/// What the picture is held against: a proof, itself without the air or one element, or a picture from disk; and how
/// both are shown.
///
/// A proof and the variants are rendered beside the picture, to as many samples as it has itself, so that the
/// comparison is fair; until then a proof is shown as it was kept.
#include "app/proofs.h"
#include "app/reference.h"

#include <atomic>

namespace hygros::app {

class Compare : public QObject {
    Q_OBJECT
public:
    Compare(Document& document, Picture& picture, Proofs& proofs, Reference& reference, std::shared_ptr<Store> store,
            QObject* parent = nullptr);
    ~Compare() override;

    enum class With { Nothing, Proof, NoAir, NoElement, Reference, File };
    enum class By { Wipe, Flip, Difference, Beside };
    With with() const { return with_; }
    const Proofs::One& proof() const { return proof_; }
    bool isOn() const { return with_ != With::Nothing; }
    void withProof(const Proofs::One& proof);
    void withoutAir();
    /// Itself as it is path-traced.
    void withReference();
    void withoutElement(const std::string& element);
    /// False and a message where it is no picture.
    bool withFile(const QString& file);
    const QString& file() const { return file_; }
    void end();

    By by() const { return by_; }
    void setBy(By by);
    /// Of Flip: whether the other one is seen.
    bool isFlipped() const { return flipped_; }
    void flip();
    /// Of Wipe: a place of the line, 0…1 of width and height, and which way it runs [degrees from upright]. The other
    /// picture lies at its right.
    QPointF seamPlace() const { return seamPlace_; }
    double seamAngle() const { return seamAngle_; }
    void setSeam(const QPointF& place, double angle);
    /// Of Difference: how many times it is drawn.
    double scale() const { return scale_; }
    void setScale(double times);

    /// The other picture; may be null while nothing is known of it.
    const QImage& image() const { return image_; }
    /// The signed difference of the picture shown to it: mid-grey where they are the same. Null where either is not
    /// there.
    QImage difference(const QImage& shown) const;
    /// What the other one is: "Proof 2 · 64 samples".
    QString words() const;
    /// Mean of the difference over all pixels and channels, of 255.
    double meanDifference(const QImage& shown) const;
    /// Stops whatever is being rendered, before what it speaks to goes.
    void stop();

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    void begin(With with);
    void render();
    std::optional<scene::Project> other() const;
    Document& document_;
    Picture& picture_;
    Proofs& proofs_;
    app::Reference& reference_;
    std::shared_ptr<Store> store_;
    With with_ = With::Nothing;
    By by_ = By::Wipe;
    Proofs::One proof_;
    std::string element_;
    QString file_;
    bool flipped_ = false;
    QPointF seamPlace_{0.5, 0.5};
    double seamAngle_ = 0.0, scale_ = 4.0;
    /// Of what is not rendered here the part that is shown.
    void fitPart();
    QImage image_, whole_;
    int samples_ = 0; ///< of it; 0: as kept
    std::unique_ptr<render::LiveRenderer> renderer_;
    std::unique_ptr<Freezer> freezer_;
    std::atomic<std::uint64_t> last_{0}; ///< revision of the newest shot handed to the renderer
    std::uint64_t least_ = 0;            ///< pictures of earlier ones are of something else
    std::atomic<int> width_{0}, height_{0};
    QRectF part_; ///< of the whole picture
};
} // namespace hygros::app
