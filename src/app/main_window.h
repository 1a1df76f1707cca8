#pragma once
/// The window: menu and status above, the Picture over the Bench at the left, cards and families at the right.
#include "app/session.h"

#include <QMainWindow>

class QLabel;
class QPushButton;

namespace hygros::app {

class Bench;
class CardColumn;
class FamilyRail;
class PictureView;
class PlanesView;
class ProofStrip;
class ReachView;
class SoundingView;
class StatusLine;
class TimeStrip;
class TransectView;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;
    Session& session() { return session_; }
    PictureView& picture() { return *picture_; }
    TransectView& transect() { return *transect_; }
    PlanesView& planes() { return *planes_; }
    SoundingView& sounding() { return *sounding_; }
    Bench& bench() { return *bench_; }
    CardColumn& column() { return *column_; }
    /// The place where everything is added.
    void showAddPlace();
    void chooseFamily(scene::Family family);
    /// Shows an element's card, unfolded.
    void unfold(const std::string& element);
    /// What the message strip says; empty when it is hidden.
    QString message() const;

public Q_SLOTS:
    void newProject();
    void openProject();
    bool saveProject();
    bool saveProjectAs();
    /// Offers what an earlier window left unsaved; true when the artist goes on with some of it.
    bool offerRecovery();
    void saveRecipe();
    void importSet();
    void exportPicture();

protected:
    void closeEvent(QCloseEvent*) override;
    /// Lets what has focus keep keys that the menu would take: Delete on a curve's point, Copy in a table.
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void buildMenu();
    void buildProofsMenu();
    void fillRecent();
    void updateTitle();
    void tell(const QString& text);
    /// Asks about unsaved changes; false to stay.
    bool mayLeave();

    Session session_;
    PictureView* picture_;
    TransectView* transect_;
    PlanesView* planes_;
    SoundingView* sounding_;
    ReachView* reach_;
    Bench* bench_;
    CardColumn* column_;
    FamilyRail* rail_;
    StatusLine* status_;
    ProofStrip* proofs_;
    TimeStrip* time_;
    QWidget* strip_;
    QLabel* stripText_;
    QMenu* recent_ = nullptr;
    QAction *undo_ = nullptr, *redo_ = nullptr;
};
} // namespace hygros::app
