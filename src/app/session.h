#pragma once
/// The open project and everything that happens to it: owns the parts and ties them together. Widgets ask and tell the
/// parts; these tell them with signals on the window's thread.
#include "app/arranger.h"
#include "app/baker.h"
#include "app/bracket.h"
#include "app/checks.h"
#include "app/compare.h"
#include "app/document.h"
#include "app/jobs.h"
#include "app/library.h"
#include "app/picture.h"
#include "app/player.h"
#include "app/readings.h"
#include "app/recovery.h"
#include "app/reference.h"
#include "app/selection.h"
#include "elements/kinds.h"

namespace hygros::app {

class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    Document& document() const { return *document_; }
    Selection& selection() const { return *selection_; }
    Jobs& jobs() const { return *jobs_; }
    Picture& picture() const { return *picture_; }
    Readings& readings() const { return *readings_; }
    Reference& reference() const { return *reference_; }
    Library& library() const { return *library_; }
    KeptRun& keptRun() const { return *keptRun_; }
    Baker& baker() const { return *baker_; }
    Player& player() const { return *player_; }
    Arranger& arranger() const { return *arranger_; }
    Proofs& proofs() const { return *proofs_; }
    Compare& compare() const { return *compare_; }
    Bracket& bracket() const { return *bracket_; }
    Checks& checks() const { return *checks_; }
    Store& store() const { return *store_; }
    std::shared_ptr<Store> sharedStore() const { return store_; }
    /// How much the store keeps [GB], now and in windows to come.
    void keepUpTo(double gigabytes);
    const scene::Project& project() const { return document_->project(); }

    void newProject();
    /// Unsaved work from a journal; the journal goes once this window keeps its own.
    void recover(const QString& journal);
    Recovery& recovery() const { return *recovery_; }
    /// Loads with its sets in the background; the present project stays until all of it is there.
    void open(const QString& file);
    /// The same for the file the window starts with: nothing is drawn of the empty project meanwhile.
    void openAtStart(const QString& file);
    /// A new element of a kind, set where it can be seen; chosen.
    void add(const elements::Kind& kind);
    /// A new element of a kind that comes from files; a file that cannot be read is said and nothing changes.
    void bring(const elements::Kind& kind, const QString& file);
    /// Puts a recipe into the project. What stands somewhere can then be set down by a click in the Picture; what is
    /// simulated begins to be.
    void take(const scene::Recipe& recipe);
    /// Sets down what was taken last.
    void placeTaken(const Vec3& at);
    const QString& takenName() const { return taken_.name; }
    /// Brings an element to the depth of the picture; says so when that is not known.
    void fit(const std::string& element);
    /// Copies every file that the project uses beside it and names them from there, as a job; one step to undo. Of a
    /// project that was saved.
    void collect();
    /// Writes a volume of the present shot as an OpenVDB file, as a job; `voxel` in metres, 0 takes its own.
    void exportVolume(const std::string& element, const QString& file, float voxel);
    /// What is seen now, for what begins or is fitted.
    elements::Seen seen() const;

Q_SIGNALS:
    void failed(const QString& message);     ///< of any part
    void told(const QString& message);       ///< what is good to know and no failure
    void brought(const QString& element);    ///< a file has become an element
    void bracketWanted(const QString& path); ///< a setting is to be stepped

private:
    struct Taken {
        QString name;
        std::vector<std::string> elements;
        Vec3 at{0.f};
    };
    Taken taken_;
    void show();
    std::shared_ptr<Store> store_;
    bool quiet_ = false; ///< nothing is drawn
    // In the order in which they need one another.
    std::unique_ptr<Document> document_;
    std::unique_ptr<Selection> selection_;
    std::unique_ptr<Arranger> arranger_;
    std::unique_ptr<Jobs> jobs_;
    std::unique_ptr<Picture> picture_;
    std::unique_ptr<Library> library_;
    std::unique_ptr<Readings> readings_;
    std::unique_ptr<Reference> reference_;
    std::unique_ptr<Recovery> recovery_;
    std::unique_ptr<KeptRun> keptRun_;
    std::unique_ptr<Baker> baker_;
    std::unique_ptr<Player> player_;
    std::unique_ptr<Proofs> proofs_;
    std::unique_ptr<Compare> compare_;
    std::unique_ptr<Bracket> bracket_;
    std::unique_ptr<Checks> checks_;
};
} // namespace hygros::app
