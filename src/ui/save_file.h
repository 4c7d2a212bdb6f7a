// Files that a person asks for: there whole or not at all, and what stood there before stays until then.
#pragma once

#include "core/base/error.h"

#include <QPdfWriter>
#include <QString>
#include <functional>
#include <string_view>

namespace cognitum {

Result<void> save_text(const QString& path, std::string_view text);
/// `write` gets the open device. False from it: nothing is saved.
Result<void> save_file(const QString& path, const std::function<bool(QIODevice&)>& write);
/// A4 with margins of 15 mm.
Result<void> save_pdf(const QString& path, const QString& title, const std::function<bool(QPdfWriter&)>& draw);

} // namespace cognitum
