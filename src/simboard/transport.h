// The far ends of links: where a simulated board's bytes go, and where commands to it come from.
#pragma once

#include "demo/board.h"

#include <memory>
#include <string>
#include <vector>

namespace cognitum::demo {

class Transport {
  public:
    virtual ~Transport() = default;
    virtual void send(const Sent& sent, const Faults& faults) = 0;
    /// Command lines that came since the last call.
    virtual std::vector<std::string> receive() = 0;
    /// What a person needs to reach it: a device path, an address.
    [[nodiscard]] virtual std::string place() const = 0;
    /// To be polled for reading; −1: none.
    [[nodiscard]] virtual int descriptor() const { return -1; }
};

/// Each returns null with a sentence in `trouble` when it cannot be had.
/// A pseudo-terminal; what is read at another speed than 115 200 Bd is garbled as on a wire.
std::unique_ptr<Transport> open_terminal(const std::string& link, std::string& trouble);
/// A broker at "HOST:PORT", with a will under BOARD/status; commands under BOARD/command, answers under
/// BOARD/answer.
std::unique_ptr<Transport> open_mqtt(const std::string& address, const std::string& board, std::string& trouble);
/// Posts to http://HOST:PORT/in/BOARD with the token in the environment variable COGNITUM_TOKEN.
std::unique_ptr<Transport> open_http(const std::string& address, const std::string& board, std::string& trouble);
/// Appends to a file, which is begun anew.
std::unique_ptr<Transport> open_file(const std::string& path, std::string& trouble);

} // namespace cognitum::demo
