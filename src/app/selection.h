#pragma once
/// What is pointed at, chosen and being done in the window.
#include <QObject>
#include <QPointF>
#include <string>
#include <vector>

namespace hygros::app {

class Selection : public QObject {
    Q_OBJECT
public:
    explicit Selection(QObject* parent = nullptr) : QObject(parent) {}

    /// Which element is hovered anywhere; empty for none.
    void setHovered(const std::string& element);
    const std::string& hovered() const { return hovered_; }
    /// The element whose handles stand in Picture and Transect; empty for none. Choosing one chooses it alone.
    void setSelected(const std::string& element);
    const std::string& selected() const { return selected_; }
    /// All that are chosen, in the order of choosing; what is done to one of them is done to all.
    const std::vector<std::string>& chosen() const { return chosen_; }
    bool isChosen(const std::string& element) const;
    /// The last of them becomes the selected one.
    void setChosen(std::vector<std::string> elements);
    void toggle(const std::string& element);

    /// The place under the cursor in the Picture, 0…1 of its width and height; negative for none: the Transect follows
    /// it.
    void setCursorPlace(const QPointF& place);
    const QPointF& cursorPlace() const { return cursorPlace_; }
    /// A distance pointed at in the Transect [m]; 0 for none: the Picture shows where it lies.
    void setCursorDistance(double metres);
    double cursorDistance() const { return cursorDistance_; }

    /// Something that is being done by clicking in the Picture.
    struct Task {
        enum What {
            Nothing,
            KnownLength,
            Horizon,
            PlaceLamp,
            AimLamp,
            PlaceTaken,
            Focus,
            PaintFaces,
            StrikeTo,
            StrikeFrom,
            PlaceWater,
            DrawRegion
        } what = Nothing;
        std::string element;
    };
    void begin(const Task& task);
    const Task& task() const { return task_; }
    /// Another project: nothing is chosen in it and nothing being done.
    void clear();

Q_SIGNALS:
    void hoveredChanged(); ///< or what is chosen
    void chosenChanged();
    void taskChanged();
    void cursorPlaceChanged();
    void cursorDistanceChanged();

private:
    std::string hovered_, selected_;
    std::vector<std::string> chosen_;
    Task task_;
    QPointF cursorPlace_{-1, -1};
    double cursorDistance_ = 0.0;
};
} // namespace hygros::app
