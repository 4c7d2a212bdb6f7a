// How a board is fed and run, as far as the rules ask: radio, supply, speeds, sleep, service, bus.
#pragma once

#include "core/bench/bench.h"
#include "ui/context.h"

#include <QCheckBox>
#include <QWidget>
#include <functional>
#include <vector>

namespace cognitum {

class NumberField;

class BoardSettings : public QWidget {
    Q_OBJECT

  public:
    explicit BoardSettings(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);

  private:
    struct Entry {
        NumberField* field;
        double (*get)(const BoardUse&);
    };
    void change(const QString& what, const std::function<void(BoardUse&)>& change);

    Context& m_context;
    std::string m_board;
    QCheckBox* m_radio;
    std::vector<Entry> m_entries;
};

} // namespace cognitum
