// A program of a board as a tree of values: what a parser brings (src/reader), what the evaluator walks. Nodes,
// types, variables and functions stand in lists and name each other by index, so that a tree has no owner problems
// and no depth that a destructor could fall down.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum::program {

inline constexpr int nothing = -1; ///< an index that leads nowhere

/// Where something stands in what the person wrote; line and column from 1. line 0: in no file of theirs.
struct CodePlace {
    int file = nothing;
    int line = 0, column = 0;
    int length = 0; ///< characters on that line; 0: not known
    bool operator==(const CodePlace&) const = default;
};

struct CodeType {
    enum class Kind : std::uint8_t { none, boolean, integer, floating, pointer, array, record, function, other };
    Kind kind = Kind::none;
    int bits = 0; ///< of numbers, as this board has them
    bool is_signed = true;
    int count = 0;         ///< of an array
    int element = nothing; ///< type that an array or pointer holds
    int record = nothing;
    std::string name; ///< as it is written: "unsigned int"
    [[nodiscard]] bool is_whole() const { return kind == Kind::integer || kind == Kind::boolean; }
    [[nodiscard]] bool is_number() const { return is_whole() || kind == Kind::floating; }
};

enum class NodeKind : std::uint8_t {
    // expressions
    whole_number, ///< `whole`
    real_number,  ///< `real`
    text,         ///< `word`
    variable,     ///< `target`: variable
    function,     ///< `target`: function
    member,       ///< of [0]; `target`: slot in it, `word` its name
    element,      ///< [0] [ [1] ]
    unary,        ///< `word`: - + ! ~ * & ++x x++ --x x--
    binary,       ///< `word`
    assign,       ///< `word`: = += -= …; to [0] from [1]
    choice,       ///< [0] ? [1] : [2]
    convert,      ///< [0] to the node's type; `written`: by the person, not by the language
    call,         ///< of `target`, with children; of a method the object comes first
    construct,    ///< of the node's type, with children
    list,         ///< { … }
    this_object,
    not_known, ///< `word`: its text; a library that is not here, or something that is not followed
    // statements
    block,
    declare, ///< `target`: variable; [0]: its first value, where it has one
    if_else, ///< [0] condition, [1] then, [2] else
    loop, ///< [0] before, [1] condition, [2] after each turn, [3] body; any may be `nothing`; `word`: for while do
    choose,      ///< switch: [0] of what, [1] body
    choose_case, ///< [0] its number or nothing for default, [1] statement
    give_back,   ///< return
    leave,       ///< break
    next_turn,   ///< continue
};

struct Node {
    NodeKind kind = NodeKind::not_known;
    int type = nothing;
    int target = nothing;
    std::int64_t whole = 0;
    double real = 0;
    bool written = false;
    std::string word;
    CodePlace place;
    std::vector<int> children;
};

struct Variable {
    std::string name;
    int type = nothing;
    int init = nothing; ///< node
    bool is_global = false, is_static = false, is_volatile = false, is_const = false, is_reference = false;
    CodePlace place;
};

struct CodeFunction {
    std::string name; ///< with its class: "Print::print"
    std::vector<int> parameters;
    std::vector<int> initialised; ///< of a constructor: assign nodes before its body
    int result = nothing;         ///< type
    int body = nothing;           ///< node; nothing: it is the core's
    bool is_method = false, is_constructor = false, is_interrupt = false, is_virtual = false;
    bool returns_reference = false;
    CodePlace place;
};

struct Record {
    std::string name;
    std::vector<std::string> fields;
    std::vector<int> types;
    std::vector<int> defaults;                         ///< nodes
    std::vector<std::pair<std::string, int>> virtuals; ///< name without the class, and function
};

/// What the parser had to say about a line.
struct ParserWord {
    CodePlace place;
    bool is_error = false;
    std::string text;
    bool is_certain = true; ///< no library that is not here could make it right
};

struct CodeFile {
    std::string name;
    std::vector<std::string> lines;
};

struct SyntaxTree {
    std::vector<CodeFile> files;
    std::vector<CodeType> types;
    std::vector<Node> nodes;
    std::vector<Variable> variables;
    std::vector<CodeFunction> functions;
    std::vector<Record> records;
    std::vector<int> globals; ///< variables, in their order
    int setup = nothing, loop = nothing;
    std::vector<std::pair<std::string, CodePlace>> unknown_headers;
    std::vector<ParserWord> said;

    [[nodiscard]] const std::string& line(const CodePlace& place) const;
    [[nodiscard]] const Node& node(int index) const { return nodes[static_cast<std::size_t>(index)]; }
    [[nodiscard]] const CodeType& type(int index) const;
    [[nodiscard]] const CodeType& type_of(const Node& node) const { return type(node.type); }
    /// Numbers that a type holds one after another; at least 1.
    [[nodiscard]] int slot_count(int type) const;
    [[nodiscard]] int field_slot(int record, int field) const;
};

} // namespace cognitum::program
