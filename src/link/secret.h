// Tokens and secrets: made, kept as fingerprints, compared.
#pragma once

#include <QString>
#include <string>

namespace cognitum {

/// A fresh token, 32 hexadecimal digits (128 bits) from the system's randomness.
QString new_token();
/// Its fingerprint for the plan (SHA-256, hexadecimal).
std::string token_print(const QString& token);
/// Takes as long for a wrong secret as for a right one of the same length.
bool same_secret(const std::string& a, const std::string& b);

} // namespace cognitum
