#pragma once
/// What is measured of the picture shown: planes, pins and their soundings, the line of sight under the cursor.
#include "app/picture.h"
#include "app/selection.h"
#include "reading/scopes.h"
#include "render/streaks.h"

namespace hygros::app {

class Readings : public QObject {
    Q_OBJECT
public:
    Readings(Picture& picture, Selection& selection, QObject* parent = nullptr);

    /// Measuring takes the renderer's time: only while somebody looks.
    void setWanted(bool wanted, bool scopes = false);
    /// Of the picture shown, or a region of it; measured while they are wanted.
    const reading::Scopes& scopes() const { return measured_.scopes; }
    const reading::Region& region() const { return region_; }
    void setRegion(const reading::Region& region);
    /// The planes of the picture shown, with its air and without; empty before the first full picture.
    const reading::Planes& planes() const { return measured_.planes; }
    const reading::Planes& planesWithoutAir() const { return measured_.without; }
    /// The same of the picture as it is shown, and of what it is held against at the same distances; empty where there
    /// is nothing.
    const reading::Planes& planesShown() const { return measured_.shown; }
    const reading::Planes& planesAgainst() const { return measured_.against; }
    /// What the picture is held against, as it lies over it; null for nothing.
    void setAgainst(const QImage& image);
    /// Distances that part the planes [m]; an empty list gives them back to the picture's depth.
    const std::vector<float>& planeBorders() const { return ownBorders_.empty() ? measured_.borders : ownBorders_; }
    void setPlaneBorders(std::vector<float> borders);
    /// Pins on the whole picture, 0…1 of its width and height, and the soundings under them; not known() of a pin that
    /// is out of what is drawn.
    const std::vector<QPointF>& pins() const { return pins_; }
    int chosenPin() const { return chosenPin_; }
    void addPin(const QPointF& place);
    void choosePin(int index);
    void removePin(int index);
    /// Of the chosen pin; null when there is none, not known() before it is measured.
    const render::Sounding* sounding() const;
    /// What the line of sight under the cursor meets, from the renderer's own march; not known() while there is none.
    /// What falls or flies under the cursor, as far as it has been looked for.
    const std::optional<render::SeenDrop>& drop() const { return drop_; }
    const render::Sounding& sight() const { return sight_; }
    void clear();

Q_SIGNALS:
    void readingsChanged(); ///< planes, pins or soundings
    void sightChanged();

private:
    void ask();
    void askSight();
    Picture& picture_;
    Selection& selection_;
    struct Measured {
        reading::Planes planes, without, shown, against;
        std::vector<float> borders;
        reading::Scopes scopes;
    };
    Measured measured_;
    std::vector<float> ownBorders_;
    std::vector<QPointF> pins_;
    std::vector<render::Sounding> soundings_; ///< as many as pins
    int chosenPin_ = -1;
    bool wanted_ = false, scopesWanted_ = false;
    reading::Region region_;
    QImage against_;
    render::Sounding sight_;
    std::optional<render::SeenDrop> drop_;
    QTimer timer_;
};
} // namespace hygros::app
