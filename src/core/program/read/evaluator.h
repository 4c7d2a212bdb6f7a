// Evaluates a program's tree with the types of its board against the parts of the plan, value by value. Nothing of
// it is ever compiled or run: there is no call that reaches the machine, and steps, memory and time are counted.
#pragma once

#include "core/program/read/board_pins.h"
#include "core/program/read/observed.h"

#include <deque>
#include <functional>
#include <unordered_map>

namespace cognitum::program {

inline constexpr int kept_of_a_number =
    40; ///< of one that is sent often so many are all kept, then one now and then

struct RunLimits {
    double least_s = 12,
           most_s = 130; ///< of the board's clock; it ends between them when everything was sent twice
    std::uint64_t steps = 3'000'000;
    std::uint64_t enough_steps = 1'000'000; ///< before them it does not end although everything was sent
    std::size_t lines = 600;
};

/// Conversions of one analog input that follow one another.
struct ConversionRun {
    std::string pin;
    int length = 0;
};

struct BoardNature {
    double supply_V = 5, internal_V = 1.1;
    int bits = 10;
    bool eight_bit = true;
};

class Evaluator {
  public:
    Evaluator(const SyntaxTree& tree, BoardPins& pins, const BoardNature& board, const RunLimits& limits);
    /// setup(), and loop() again and again.
    Observed run();

    // For the functions of the core, which stand in other files.
    struct Spot {
        int object = nothing, slot = 0, type = nothing;
        [[nodiscard]] bool there() const { return object != nothing; }
    };
    struct Call {
        const Node& node;
        std::string name;
        std::vector<CodeValue> given; ///< of a method without its object
        std::vector<bool> by_default;
        Spot self;          ///< of a method
        std::string object; ///< name of its variable: "Serial"
        [[nodiscard]] double number(std::size_t i) const {
            return i < given.size() && given[i].is_number() ? given[i].number() : 0;
        }
        [[nodiscard]] const CodeValue& value(std::size_t i) const;
    };
    [[nodiscard]] const SyntaxTree& tree() const { return m_tree; }
    BoardPins& pins() { return m_pins; }
    Observed& seen() { return m_seen; }
    const BoardNature& nature() const { return m_board; }
    void pass_time(double us);
    void looked() { ///< at what only something outside changes
        if (!m_looked) m_changes_at_look = m_changes;
        m_looked = true;
    }
    void looked_at(const std::string& pin); ///< the same, of a pin
    /// The number of the pin that was looked at just now; nothing: none was.
    [[nodiscard]] std::int8_t watched_now() const;
    [[nodiscard]] bool in_interrupt() const { return !m_interrupt_pin.empty(); }
    [[nodiscard]] bool in_loop() const { return m_in_loop; }
    void acted() { m_acted = true; } ///< something that the world outside could see, or that takes its own time
    /// A source is asked: when, and how soon after the last time. False: this time it fails.
    bool ask(const std::string& key, const CodePlace& place);
    void set_interrupts(bool on);
    CodeValue load(const Spot& spot);
    void store(const Spot& spot, CodeValue value);
    [[nodiscard]] Spot spot_of(const CodeValue& address) const;
    /// Text at an address or of a text value, with its numbers.
    Text text_of(const CodeValue& value);
    void put_text(const CodeValue& address, const Text& text);
    /// Room behind an address, in held.
    [[nodiscard]] int room(const CodeValue& address);
    int loss(Loss::Kind kind, const CodePlace& place, const CodeValue& board, double ideal, int bits = 0);
    void send(const std::string& port, const Text& text, const CodePlace& place);
    CodeValue in(const CodeValue& value, int type, const CodePlace& place, bool written = false);
    void stop(std::string why, const CodePlace& place);
    [[nodiscard]] bool stopped() const { return !m_seen.stopped.empty() || m_ended; }
    CodeValue call_function(int function, std::vector<CodeValue> given, const Spot& self);
    CodePlace interrupts_off_at; ///< where they were switched off last
    double reference_V = 0;      ///< of the converter, as the program has set it
    ConversionRun conversions;
    int sleep_mode = 0; ///< as the program has set it
    /// What the watchdog's register says: it interrupts again and again, or it does not.
    void set_watchdog(int control);
    bool connected = false;  ///< its client, through the network
    bool has_network = true; ///< its radio finds the network at once
    int fails_every = 0;     ///< of each source's askings every so many fails; 0: none does
    int bits = 0;
    std::string input; ///< what was typed into its port and not read yet
    std::uint64_t random = 1;
    std::map<int, std::uint8_t> memory; ///< EEPROM
    struct Bus {
        int address = -1;
        std::vector<std::uint8_t> written;
        std::deque<std::uint8_t> read;
        CodePlace place;  ///< of the request
        int answered = 0; ///< bytes that it brought
    } bus;                ///< the transfer on the I²C bus

  private:
    enum class Flow : std::uint8_t { next, left, next_turn, gave_back, stopped };
    struct Object {
        std::vector<CodeValue> held;
        std::shared_ptr<const Text> text; ///< written into a buffer as a whole
        int text_at = 0;
        int type = nothing;
    };
    [[nodiscard]] int overrider(int function, const Spot& self);
    struct Frame {
        std::vector<std::pair<int, int>> objects; ///< variable, object
        Spot self;
        CodeValue result;
        std::size_t objects_before = 0;
        bool gives_reference = false;
    };

    // evaluator.cpp
    static constexpr int first_static = 1 << 24; ///< number of the first object that lasts
    [[nodiscard]] bool has(int object) const;
    Object& at(int object);
    int new_object(int type, bool lasts = false);
    void fill_in(int object, int slot, int type);
    int object_of(int variable);
    Spot spot_of_variable(int variable);
    void begin_globals();
    void serve_interrupts();
    void call_interrupt(const std::string& pin, int function);
    bool step();
    void wait_for_something(double began_us);
    // statements.cpp
    Flow exec(int node);
    Flow exec_loop(const Node& node);
    Flow exec_choose(const Node& node);
    void declare(const Node& node);
    void start_value(const Spot& spot, int init);
    // expressions.cpp
    CodeValue eval(int node);
    Spot locate(int node);
    CodeValue binary(const Node& node);
    CodeValue arithmetic(const std::string& op, const CodeValue& a, const CodeValue& b, int type,
                         const CodePlace& place);
    CodeValue compare(const std::string& op, const CodeValue& a, const CodeValue& b, int type,
                      const CodePlace& place);
    CodeValue unary(const Node& node);
    CodeValue assign(const Node& node);
    CodeValue call(const Node& node);
    CodeValue construct(const Node& node, const Spot& into);
    CodeValue convert(const Node& node);
    /// The level of a pin, or the count of its pulses, under which this is done; null: none.
    [[nodiscard]] const Origin* level_condition() const;
    CodeValue counted(const CodeValue& before, CodeValue after, double by, const CodePlace& place);
    void convert_by_register();
    void register_written(const std::string& name, const CodeValue& value);
    void begin_watchdog_period();
    void note_time(const CodeValue& a, const CodeValue& b);

    const SyntaxTree& m_tree;
    BoardPins& m_pins;
    BoardNature m_board;
    RunLimits m_limits;
    Observed m_seen;
    std::vector<Object> m_objects, m_lasting;
    std::unordered_map<int, int> m_global_objects;
    std::vector<Frame> m_frames;
    std::vector<TraceRef> m_conditions; ///< on a pin's level, or on how long it lasted, that hold now
    std::vector<std::string> m_watched; ///< pins whose level was looked at
    std::uint64_t m_changes = 0, m_changes_at_look = 0; ///< of pins; the second at the first look of a turn
    int m_watched_last = nothing;
    double m_watched_us = 0; ///< when
    std::map<std::string, Line> m_open_lines;
    std::map<std::pair<int, std::string>, std::pair<int, double>>
        m_sent_from; ///< numbers, by line of the program and the text before
    std::map<std::string, double> m_port_free_us;
    std::uint64_t m_steps = 0;
    double m_wake_us = 0; ///< the next time at which a comparison with the clock may come out differently
    bool m_acted = false, m_looked = false, m_ended = false;
    bool m_interrupts_on = true, m_in_loop = false;
    std::string m_interrupt_pin;              ///< whose function runs
    int m_watchdog = 0, m_watchdog_began = 0; ///< its register; how often it was set
    int m_watchdog_function = nothing;
    std::deque<std::pair<std::string, bool>> m_pending;
    double m_owed_us = 0;
    int m_depth = 0;
    int m_no_register = nothing;
    CodePlace m_here; ///< of the statement that is evaluated
};

using CoreCall = CodeValue (*)(Evaluator&, Evaluator::Call&);
/// The core's function of that name; null: it is none of those that are known.
CoreCall core_call(const std::string& name);
/// By subject.
using CoreCalls = std::unordered_map<std::string, CoreCall>;
/// True when a number came over a bus, as bits.
bool is_bus(const TraceRef& trace);
/// Words that are no numbers are worth one that works: a library's answer, of which nothing is known.
CodeValue library_value(const Node& node, int type, bool is_float);
/// Keeps that this was called, for the rules; of each kind a few places.
void note(Evaluator& evaluator, Evaluator::Call& call, const std::string& name);
void add_pin_calls(CoreCalls& calls);
void add_network_calls(CoreCalls& calls);
void add_number_calls(CoreCalls& calls);
void add_text_calls(CoreCalls& calls);
void add_print_calls(CoreCalls& calls);
void add_bus_calls(CoreCalls& calls);

CodeValue write_text(Evaluator& evaluator, Evaluator::Call& call); ///< write() of a port that prints

/// As the core prints it: digits behind the point, rounded.
std::string printed_real(double value, int digits);
std::string printed_whole(std::int64_t value, int base, int bits);

} // namespace cognitum::program
