#pragma once
/// The Bench under the Picture: one of its pages at a time, chosen by name.
#include <QStringList>
#include <QWidget>

class QHBoxLayout;
class QPushButton;
class QStackedWidget;

namespace hygros::app {

class Bench : public QWidget {
    Q_OBJECT
public:
    explicit Bench(QWidget* parent = nullptr);
    void addPage(const QString& name, QWidget* page);
    void showPage(const QString& name);
    QString shownPage() const;
    QStringList pages() const;

Q_SIGNALS:
    void pageShown(const QString& name);

private:
    QHBoxLayout* head_;
    QStackedWidget* pages_;
    std::vector<std::pair<QString, QPushButton*>>
        names_; ///< of the pages, in English, which is what they are asked for by
};
} // namespace hygros::app
