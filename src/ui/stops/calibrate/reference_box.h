// What the reading is compared with: a reference that computes itself from what is typed beside it, or an
// instrument of the register, or a number from anywhere with its doubt.
#pragma once

#include "core/calibrate/recipe.h"
#include "core/calibrate/references.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>

class QComboBox;
class QGridLayout;

namespace cognitum {

class NumberField;
class TextLabel;

class ReferenceBox : public QWidget {
    Q_OBJECT

  public:
    explicit ReferenceBox(Context& context, QWidget* parent = nullptr);

    /// Offers the kinds that the recipes of this reading's quantity use, and a number from anywhere.
    void setReading(const Reading& reading, const std::vector<Recipe>& recipes);
    void choose(const std::string& kind);
    /// A number that came by itself: the simulated thermometer.
    void offer(double value);

    /// What the reference says, in the reading's unit; empty while something is missing.
    [[nodiscard]] std::optional<ReferenceValue> value() const;
    [[nodiscard]] std::string kind() const;
    [[nodiscard]] std::string instrument() const;
    /// Of an input of a computed reference: the poured volume.
    [[nodiscard]] std::optional<double> input(const std::string& key) const;
    /// Why a point cannot be taken with it; empty: it can.
    [[nodiscard]] QString trouble() const;
    void refresh(double indication);
    /// Fields in which Space takes the point instead of being typed.
    [[nodiscard]] std::vector<NumberField*> fields() const;

  signals:
    void changed();

  private:
    void fillInstruments(const Reading& reading);
    void registerChanged();
    void kindChosen();
    void instrumentChosen();
    void compute();
    [[nodiscard]] const ReferenceKind* current() const;
    [[nodiscard]] std::optional<double> waterTemperature(const Reading& reading) const;

    Context& m_context;
    std::string m_reading;
    std::vector<ReferenceKind> m_kinds;
    QComboBox *m_kind, *m_instrument;
    QWidget* m_inputs;
    QGridLayout* m_input_grid;
    std::map<std::string, NumberField*> m_input_fields;
    NumberField *m_value, *m_doubt;
    TextLabel *m_note, *m_caution, *m_remarks;
};

} // namespace cognitum
