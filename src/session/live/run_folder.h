// A folder of this run for files that nobody keeps. It goes with its owner; those of programs that were killed go
// when the next one is made.
#pragma once

#include <QTemporaryDir>

namespace cognitum {

class RunFolder {
  public:
    RunFolder();
    [[nodiscard]] QString path() const { return m_folder.path(); }

  private:
    QTemporaryDir m_folder;
};

} // namespace cognitum
