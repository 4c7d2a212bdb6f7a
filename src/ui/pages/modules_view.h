// What is wired to a board and is no reading: converters, switches, lamps, relays. Added, fed, switched, taken off.
#pragma once

#include "core/bench/bench.h"
#include "ui/context.h"

#include <QComboBox>
#include <QWidget>
#include <functional>

namespace cognitum {

class TextLabel;

class ModulesView : public QWidget {
    Q_OBJECT

  public:
    explicit ModulesView(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);

  private:
    void add();
    void remove(const std::string& id);
    void change(const std::string& id, const QString& what, const std::function<void(Module&)>& change);
    QWidget* row(const Module& module);

    Context& m_context;
    std::string m_board;
    QComboBox* m_part;
    TextLabel* m_intro;
    QWidget* m_rows = nullptr;
};

} // namespace cognitum
