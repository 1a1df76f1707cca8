/// Fields of a card that tell density in other words: as extinction or opacity, as scattering and absorption.
#include "app/ball_view.h"
#include "app/card.h"
#include "app/lead_ruler.h"
#include "app/session.h"

namespace hygros::app {

void Card::visibilityForms(LeadRuler* ruler)
{
    struct Form {
        const char* word;
        double factor; ///< visibility ÷ what is shown; 0: extinction
    };
    static const std::array<Form, 5> forms{{{"visibility", 1.0},
                                            {"extinction", 0.0},
                                            {"mean free path", visibilityConstant},
                                            {"hides half over", visibilityConstant / std::log(2.0)},
                                            {"hides 99 % over", visibilityConstant / std::log(100.0)}}};
    const auto form = [this, ruler] {
        const Form& f = forms[static_cast<std::size_t>(visibilityForm_)];
        if (visibilityForm_ == 0)
            ruler->setForm(f.word, nullptr, nullptr);
        else if (f.factor == 0.0)
            ruler->setForm(
                f.word,
                [](double v) { return QString::fromStdString(formatNumber(extinctionOfVisibility(v)) + " /m"); },
                [](const QString& s) -> std::optional<double> {
                    const auto bare = parseQuantity(s.toStdString(), Quantity::Plain);
                    return bare && *bare > 0 ? std::optional(visibilityOfExtinction(*bare)) : std::nullopt;
                });
        else
            ruler->setForm(
                f.word,
                [factor = f.factor](double v) {
                    return QString::fromStdString(formatQuantity(v / factor, Quantity::Length));
                },
                [factor = f.factor](const QString& s) -> std::optional<double> {
                    const auto bare = parseQuantity(s.toStdString(), Quantity::Length);
                    return bare && *bare > 0 ? std::optional(*bare * factor) : std::nullopt;
                });
    };
    form();
    ruler->setToolTip(
        ruler->toolTip() +
        "\nClick the word to see it as extinction, as mean free path, or as the thickness that hides half or 99 %.");
    connect(ruler, &LeadRuler::labelClicked, this, [this, form] {
        visibilityForm_ = (visibilityForm_ + 1) % static_cast<int>(forms.size());
        form();
    });
}

QWidget* Card::ballEditor(const scene::Parameter& parameter)
{
    auto* view = new BallView(this);
    const auto pull = [this, view, &parameter] {
        const scene::Element& e = now();
        // No larger than the volume's shortest side, and so that one still sees into it: four mean free paths.
        const elements::VolumeLook look = elements::lookOf(e);
        const float sigma = luminance(look.scattering + look.absorption);
        float diameter = sigma > 0.f ? 4.f / sigma : 4.f;
        if (const auto shot = session_.shot())
            for (const media::Volume& v : shot->volumes)
                if (v.id == element_) {
                    const Vec3 extent = v.bounds.max - v.bounds.min;
                    diameter = std::max(0.001f, std::min({diameter, extent.x, extent.y, extent.z}));
                }
        const auto ball = [&](const elements::VolumeLook& of) {
            return reading::BallOf{of.scattering, of.absorption, of.phase, diameter};
        };
        std::array<reading::BallOf, 3> denser;
        const auto own = std::get<std::string>(parameter.get(*e.settings));
        int linked = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            denser[i] = ball(elements::denserLook(e, BallView::ways[i], 2.0));
            if (own == BallView::ways[i])
                linked = static_cast<int>(i);
        }
        view->setBalls(ball(look), denser, linked);
    };
    pull();
    refreshers_.push_back(pull);
    connect(&session_, &Session::shotChanged, view, pull);
    connect(view, &BallView::chosen, this,
            [this, &parameter](const QString& way) { session_.setValue(element_, parameter.id, way.toStdString()); });
    return view;
}
} // namespace hygros::app
