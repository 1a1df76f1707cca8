#pragma once
/// The contact sheet in the Picture's place: what is stepped, over which range, and its tiles; one is chosen with a
/// click or the arrow keys, taken with Enter, enlarged with a double click or Space; Escape goes back.
#include "app/setting_box.h"

#include <QWidget>
#include <array>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;

namespace hygros::app {

class BracketView : public QWidget {
    Q_OBJECT
public:
    explicit BracketView(Session& session, QWidget* parent = nullptr);
    /// With a setting, about its present value; without one, with what was last.
    void open(const std::string& path);
    QRect tileAt(int index) const;
    int chosen() const { return chosen_; }

Q_SIGNALS:
    void closed();

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    /// The controls of one range.
    struct Range {
        SettingBox* setting;
        QComboBox* by;
        QLineEdit *from, *to;
        QSpinBox* steps;
        std::array<QLabel*, 2> words;
    };
    Range makeRange(const QString& name, const QString& none);
    void beginRange(Range& range, const std::string& path);
    void showRange(Range& range);
    elements::BracketWish wish(const Range& range) const;
    void begin();
    void choose(int tile);
    void takeChosen();
    void writeSheet();
    void tell();
    QRect sheet() const;
    int at(const QPoint& place) const;

    Session& session_;
    Range over_, across_;
    QWidget* bar_;
    QLabel* state_;
    QPushButton *take_, *enlarge_, *write_, *close_;
    int chosen_ = -1;
};
} // namespace hygros::app
