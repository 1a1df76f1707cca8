#pragma once
/// Proofs: kept pictures with the states that made them, and what is done with them.
#include "app/document.h"
#include "app/picture.h"
#include "scene/differences.h"

#include <QImage>

namespace hygros::app {

class Proofs : public QObject {
    Q_OBJECT
public:
    Proofs(Document& document, Picture& picture, QObject* parent = nullptr);

    using One = std::shared_ptr<const scene::Proof>;
    const Document::Proofs& all() const { return document_.proofs(); }
    /// The picture as it is shown now, with the state it is of. Null and a message where there is none.
    One keep(const QString& note = {});
    void rename(const One& proof, const QString& note);
    void forget(const One& proof);
    /// The state that made it, in place of the present one; can be undone.
    void goBack(const One& proof);
    /// One element as it was then: its settings, or it is there again, or gone; can be undone.
    void takeElement(const One& proof, const std::string& element);
    /// What differs now from what it was then.
    std::vector<scene::Difference> differences(const One& proof) const;
    /// As it was kept; null where it cannot be read.
    QImage picture(const One& proof) const;
    /// "12:41 · frame 40 · 64 samples".
    static QString words(const One& proof);

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    void put(const One& was, One now);
    Document& document_;
    Picture& picture_;
    mutable std::map<const scene::Proof*, QImage> pictures_; ///< read once
};
} // namespace hygros::app
