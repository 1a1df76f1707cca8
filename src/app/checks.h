#pragma once
/// Checks of the open project, kept up to date: told anew with each shot, and once what was measured of it is known.
#include "app/document.h"
#include "app/picture.h"
#include "reading/checks.h"

namespace hygros::app {

class Checks : public QObject {
    Q_OBJECT
public:
    Checks(Document& document, Picture& picture, std::shared_ptr<Store> store, QObject* parent = nullptr);
    const std::vector<reading::Finding>& all() const { return all_; }
    /// Those that are no mere information.
    std::size_t count() const;
    /// Sets what mends it, as one undo step; or has it baked.
    void mend(const reading::Finding& finding);

Q_SIGNALS:
    void changed();
    void bakeWanted(const std::string& element);

private:
    void look();
    Document& document_;
    Picture& picture_;
    std::shared_ptr<Store> store_;
    std::vector<reading::Finding> all_;
    QTimer timer_;
};
} // namespace hygros::app
