#pragma once
/// The window: menu and status above, the Picture over the Bench at the left, cards and families at the right.
#include "app/choices.h"
#include "app/session.h"

#include <QMainWindow>

class QLabel;
class QPushButton;
class QSplitter;
class QStackedWidget;
class QVBoxLayout;

namespace hygros::app {

class Bench;
class BracketView;
class CardColumn;
class FamilyRail;
class FirstPage;
class Guide;
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
    BracketView& bracket() { return *bracket_; }
    /// The contact sheet in the Picture's place: of a setting, or of what was last stepped.
    void showBracket(const std::string& path = {});
    void showPicture();
    /// Where one begins, in the Picture's place.
    void showFirstPage();
    /// The demo without its air, and a first fog step by step.
    void startGuide();
    Guide* guide() { return guide_; }
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
    /// Goes to one setting: its card open, its field in view.
    void showSetting(const std::string& element, const std::string& parameter);
    /// What the window's user prefers from now on; what can be is changed at once.
    void choose(const Choices& choices);
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
    void findAnything();
    void showPreferences();
    void exportPicture();

protected:
    void closeEvent(QCloseEvent*) override;
    /// Lets what has focus keep keys that the menu would take: Delete on a curve's point, Copy in a table.
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void make();
    /// All widgets anew, as they are to look now.
    void makeAnew();
    void tellHistory();
    void buildMenu();
    void buildViewMenu();
    void buildTimeMenu();
    void buildProofsMenu();
    void fillRecent();
    void updateTitle();
    void tell(const QString& text);
    /// Asks about unsaved changes; false to stay.
    bool mayLeave();

    Session session_;
    QObject* parts_ = nullptr;
    QSplitter* split_ = nullptr;
    PictureView* picture_;
    BracketView* bracket_;
    QStackedWidget* stage_; ///< the Picture, or a bracket in its place
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
    Guide* guide_ = nullptr;
    QVBoxLayout* left_ = nullptr;
    QWidget* strip_;
    QLabel* stripText_;
    QMenu* recent_ = nullptr;
    QAction *undo_ = nullptr, *redo_ = nullptr;
};
} // namespace hygros::app
