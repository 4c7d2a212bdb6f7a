#include "reader/parse.h"

#include "core/base/letters.h"
#include "reader/convert_tree.h"

#include <algorithm>
#include <clang/AST/ASTConsumer.h>
#include <clang/Basic/FileManager.h>
#include <clang/Frontend/CompilerInstance.h>
#include <clang/Frontend/FrontendAction.h>
#include <clang/Lex/Preprocessor.h>
#include <filesystem>
#include <fmt/format.h>
#include <llvm/Support/VirtualFileSystem.h>
#include <set>
#include <sstream>

namespace cognitum::reader {

namespace {

using program::CodePlace;
using program::SyntaxTree;

constexpr std::size_t most_bytes = 4U << 20;
constexpr int most_passes = 6;
constexpr std::size_t most_words = 200; ///< of the parser
const std::string main_name = "whole-program.cpp";

/// What a pass found out that the next one needs.
struct Found {
    std::set<std::string> unknown_types, unknown_names;
    std::map<std::string, std::set<std::string>> unknown_members; ///< of those types
    std::map<std::string, Inserted> prototypes;                   ///< by file
    std::set<std::string> declared; ///< functions of the program that are used before they stand there
    bool operator==(const Found&) const = default;
};

/// A program's files are `.ino`, `.cpp` and `.c`, and are compiled one behind the other; others are included by it.
bool is_unit(const std::string& name) {
    return name.ends_with(".ino") || name.ends_with(".cpp") || name.ends_with(".c") || name.ends_with(".pde");
}

/// The word between the quotes of a parser's message, the n-th.
std::string quoted(const std::string& message, int n) {
    std::size_t at = 0;
    for (;; --n) {
        const std::size_t begin = message.find('\'', at);
        const std::size_t end = begin == std::string::npos ? begin : message.find('\'', begin + 1);
        if (end == std::string::npos) return {};
        if (n == 0) return message.substr(begin + 1, end - begin - 1);
        at = end + 1;
    }
}

bool is_name(const std::string& word) {
    return !word.empty() && !letters::is_digit(word[0]) &&
           std::all_of(word.begin(), word.end(), [](char c) { return letters::is_letter_or_digit(c) || c == '_'; });
}

/// Index of a file of the program by the parser's name for it.
int file_index(const SyntaxTree& tree, llvm::StringRef name) {
    const std::string plain = plain_name(name.str());
    for (std::size_t i = 0; i < tree.files.size(); ++i)
        if (tree.files[i].name == plain) return static_cast<int>(i);
    return program::nothing;
}

class Listener : public clang::DiagnosticConsumer {
  public:
    Listener(SyntaxTree& tree, Found& found) : m_tree(tree), m_found(found) {}

    void HandleDiagnostic(clang::DiagnosticsEngine::Level level, const clang::Diagnostic& info) override {
        DiagnosticConsumer::HandleDiagnostic(level, info);
        if (level < clang::DiagnosticsEngine::Error) return;
        llvm::SmallString<128> text;
        info.FormatDiagnostic(text);
        const std::string message = text.str().str();
        const std::string word = quoted(message, 0);
        if (message.starts_with("unknown type name") && is_name(word)) m_found.unknown_types.insert(word);
        if (message.starts_with("use of undeclared identifier") && is_name(word))
            m_found.unknown_names.insert(word);
        if (message.starts_with("no member named"))
            if (const std::string of = quoted(message, 1); is_name(word) && is_name(of))
                m_found.unknown_members[of].insert(word);
        if (m_tree.said.size() >= most_words) return;
        program::ParserWord out;
        out.is_error = true;
        out.text = message;
        if (info.hasSourceManager() && info.getLocation().isValid()) {
            const clang::SourceManager& sources = info.getSourceManager();
            const auto at = sources.getPresumedLoc(sources.getExpansionLoc(info.getLocation()));
            if (const int file = at.isValid() ? file_index(m_tree, at.getFilename()) : program::nothing;
                file != program::nothing)
                out.place = {file, static_cast<int>(at.getLine()), static_cast<int>(at.getColumn()), 0};
        }
        if (out.place.file == program::nothing && !m_tree.files.empty()) // at the end of all
            out.place = {static_cast<int>(m_tree.files.size()) - 1,
                         static_cast<int>(m_tree.files.back().lines.size()), 1, 0};
        m_tree.said.push_back(out);
    }

  private:
    SyntaxTree& m_tree;
    Found& m_found;
};

/// Functions of the program that are used before they stand there: the usual tools declare them by themselves, and
/// so does this, on the line of the first function, so that no line moves.
void note_prototypes(clang::ASTContext& context, const SyntaxTree& tree, const Found& known, Found& found) {
    const clang::SourceManager& sources = context.getSourceManager();
    std::map<std::string, Inserted> first = known.prototypes; // by file: the place before its first function
    for (auto& [file, place] : first)
        place.text.clear();
    for (const clang::Decl* d : context.getTranslationUnitDecl()->decls()) {
        const auto* f = clang::dyn_cast<clang::FunctionDecl>(d);
        if (!f || !f->doesThisDeclarationHaveABody() || f->isTemplated() || f->isInvalidDecl()) continue;
        if (clang::isa<clang::CXXMethodDecl>(f) || f->getLocation().isMacroID()) continue;
        const clang::PresumedLoc at = sources.getPresumedLoc(f->getBeginLoc());
        const int index = at.isValid() ? file_index(tree, at.getFilename()) : program::nothing;
        if (index == program::nothing) continue;
        const std::string& file = tree.files[static_cast<std::size_t>(index)].name;
        if (!file.ends_with(".ino") && !file.ends_with(".pde")) continue;
        first.try_emplace(file, Inserted{static_cast<int>(at.getLine()),
                                         static_cast<int>(at.getColumn()),
                                         sources.getFileOffset(f->getBeginLoc()),
                                         {}});
        const std::string name = f->getNameAsString();
        if (!known.declared.contains(name) && !found.unknown_names.contains(name)) continue;
        found.declared.insert(name);
        std::string text = (f->getStorageClass() == clang::SC_Static ? "static " : "") +
                           f->getReturnType().getAsString(context.getPrintingPolicy()) + " " + name + "(";
        bool has_defaults = false; // which may stand in one declaration only
        for (unsigned i = 0; i < f->getNumParams(); ++i) {
            std::string one;
            llvm::raw_string_ostream out(one);
            f->getParamDecl(i)->getType().print(out, context.getPrintingPolicy(), "x" + std::to_string(i));
            text += (i == 0 ? "" : ", ") + out.str();
            has_defaults = has_defaults || f->getParamDecl(i)->hasDefaultArg();
        }
        if (has_defaults) continue;
        Inserted& here = found.prototypes.try_emplace(file, first.at(file)).first->second;
        here.text += text + "); ";
    }
}

class Taker : public clang::ASTConsumer {
  public:
    Taker(SyntaxTree& tree, const Found& known, Found& found, bool& fits)
        : m_tree(tree), m_known(known), m_found(found), m_fits(fits) {}
    void HandleTranslationUnit(clang::ASTContext& context) override {
        note_prototypes(context, m_tree, m_known, m_found);
        m_fits = convert_tree(context, m_tree, m_known.prototypes);
    }

  private:
    SyntaxTree& m_tree;
    const Found& m_known;
    Found& m_found;
    bool& m_fits;
};

class Headers : public clang::PPCallbacks {
  public:
    Headers(SyntaxTree& tree, const clang::SourceManager& sources) : m_tree(tree), m_sources(sources) {}
    void InclusionDirective(clang::SourceLocation at, const clang::Token&, llvm::StringRef name, bool,
                            clang::CharSourceRange, const clang::FileEntry* file, llvm::StringRef, llvm::StringRef,
                            const clang::Module*, clang::SrcMgr::CharacteristicKind) override {
        if (file) return;
        const clang::PresumedLoc place = m_sources.getPresumedLoc(at);
        CodePlace out;
        if (place.isValid())
            out = {file_index(m_tree, place.getFilename()), static_cast<int>(place.getLine()), 1, 0};
        if (m_tree.unknown_headers.size() < most_words) m_tree.unknown_headers.emplace_back(name.str(), out);
    }

  private:
    SyntaxTree& m_tree;
    const clang::SourceManager& m_sources;
};

class Action : public clang::ASTFrontendAction {
  public:
    Action(SyntaxTree& tree, const Found& known, Found& found, bool& fits)
        : m_tree(tree), m_known(known), m_found(found), m_fits(fits) {}
    std::unique_ptr<clang::ASTConsumer> CreateASTConsumer(clang::CompilerInstance& compiler,
                                                          llvm::StringRef) override {
        compiler.getPreprocessor().SetSuppressIncludeNotFoundError(true);
        compiler.getPreprocessor().addPPCallbacks(std::make_unique<Headers>(m_tree, compiler.getSourceManager()));
        return std::make_unique<Taker>(m_tree, m_known, m_found, m_fits);
    }

  private:
    SyntaxTree& m_tree;
    const Found& m_known;
    Found& m_found;
    bool& m_fits;
};

/// Stand-ins of what a library would have declared, so that what lies around it is understood. Their values are not
/// known.
std::string stand_ins(const Found& found) {
    std::set<std::string> types = found.unknown_types;
    std::string out;
    const auto members = [&](const std::string& name) {
        std::string text;
        if (const auto at = found.unknown_members.find(name); at != found.unknown_members.end())
            for (const std::string& member : at->second)
                text += "template <class... A> float " + member + "(A&&...); ";
        return text;
    };
    for (const std::string& type : types)
        out +=
            fmt::format("struct {0} {{ {0}(); template <class... A> {0}(A&&...); operator float() const; {1}}};\n",
                        type, members(type));
    for (const std::string& name : found.unknown_names)
        if (!types.contains(name))
            out += fmt::format("struct not_here_{0} {{ operator float() const; template <class... A> float "
                               "operator()(A&&...) const; {1}}}; extern not_here_{0} {0};\n",
                               name, members("not_here_" + name));
    return out;
}

SyntaxTree begin_tree(const std::vector<SourceText>& files) {
    SyntaxTree tree;
    for (const SourceText& file : files) {
        program::CodeFile one{file.name, {}};
        std::istringstream in(file.text);
        for (std::string line; std::getline(in, line);) {
            if (!line.empty() && line.back() == '\r') line.pop_back();
            one.lines.push_back(line);
        }
        tree.files.push_back(one);
    }
    return tree;
}

/// One run of the parser. False: the tree is too large.
bool pass(const std::vector<SourceText>& files, const ParseOptions& options, const Found& known, SyntaxTree& tree,
          Found& found) {
    llvm::IntrusiveRefCntPtr<llvm::vfs::InMemoryFileSystem> texts(new llvm::vfs::InMemoryFileSystem);
    const auto put = [&](const std::string& name, const std::string& text) {
        texts->addFile(name, 0, llvm::MemoryBuffer::getMemBufferCopy(text, name));
    };
    for (const SourceText& file : options.interface)
        put("/interface/" + file.name, file.text);
    put("/interface/library-stand-ins.h", stand_ins(known));
    std::string whole;
    for (const SourceText& file : files) {
        std::string text = file.text;
        if (const auto at = known.prototypes.find(file.name);
            at != known.prototypes.end() && at->second.offset <= text.size())
            text.insert(at->second.offset, at->second.text);
        put(program_folder + file.name, text);
        if (is_unit(file.name) || files.size() == 1) whole += "#include \"" + file.name + "\"\n";
    }
    put(program_folder + main_name, whole);
    texts->setCurrentWorkingDirectory(program_folder);

    clang::CompilerInstance compiler;
    Listener listener(tree, found);
    compiler.createDiagnostics(&listener, false);
    std::vector<const char*> arguments = {"-triple",
                                          options.eight_bit ? "avr" : "armv7m-none-eabi",
                                          "-fsyntax-only",
                                          "-x",
                                          "c++",
                                          "-std=gnu++17",
                                          "-nostdsysteminc",
                                          "-nobuiltininc",
                                          "-fno-spell-checking",
                                          "-Wno-everything",
                                          "-fno-caret-diagnostics",
                                          "-ferror-limit",
                                          "100",
                                          "-ftemplate-depth",
                                          "64",
                                          "-fbracket-depth",
                                          "200",
                                          "-I",
                                          "/interface",
                                          "-include",
                                          "/interface/core.h",
                                          "-include",
                                          "/interface/library-stand-ins.h"};
    if (options.eight_bit) arguments.insert(arguments.end(), {"-target-cpu", "atmega328p"});
    const std::string main_path = program_folder + main_name;
    arguments.push_back(main_path.c_str());
    clang::CompilerInvocation::CreateFromArgs(compiler.getInvocation(), arguments, compiler.getDiagnostics());
    compiler.getFrontendOpts().DisableFree = false;
    compiler.createFileManager(texts);
    bool fits = true;
    Action action(tree, known, found, fits);
    compiler.ExecuteAction(action);
    compiler.getDiagnostics().setClient(new clang::IgnoringDiagConsumer, true);
    return fits;
}

bool is_utf8(const std::string& text) {
    for (std::size_t i = 0; i < text.size();) {
        const auto c = static_cast<unsigned char>(text[i]);
        const std::size_t n = c < 0x80                ? 1
                              : c >= 0xC2 && c < 0xE0 ? 2
                              : c >= 0xE0 && c < 0xF0 ? 3
                              : c >= 0xF0 && c < 0xF5 ? 4
                                                      : 0;
        if (n == 0 || i + n > text.size()) return false;
        for (std::size_t k = 1; k < n; ++k)
            if ((static_cast<unsigned char>(text[i + k]) & 0xC0) != 0x80) return false;
        i += n;
    }
    return true;
}

/// Of a program with libraries that are not here: what is against the grammar on a line without any name of theirs.
void note_what_is_certain(SyntaxTree& tree, const Found& known) {
    if (tree.unknown_headers.empty()) return;
    for (program::ParserWord& word : tree.said) {
        const std::string& line = tree.line(word.place);
        const auto names_one = [&](const std::set<std::string>& names) {
            return std::any_of(names.begin(), names.end(),
                               [&](const std::string& name) { return line.find(name) != std::string::npos; });
        };
        word.is_certain = (word.text.starts_with("expected ") || word.text.starts_with("extraneous ")) &&
                          !names_one(known.unknown_types) && !names_one(known.unknown_names);
    }
    // What follows from another error is not certain.
    if (!tree.said.empty() && !tree.said.front().is_certain)
        for (program::ParserWord& word : tree.said)
            word.is_certain = false;
}

Result<void> look_at_texts(const std::vector<SourceText>& files) {
    std::size_t bytes = 0;
    for (const SourceText& file : files) {
        bytes += file.text.size();
        if (file.text.find('\0') != std::string::npos)
            return failure("It holds bytes of zero: it is no program text.", file.name,
                           "Give the source (.ino, .cpp, .h), not what was compiled from it.");
        if (!is_utf8(file.text))
            return failure("It is not written in UTF-8.", file.name, "Save it as UTF-8 and read it again.");
    }
    if (bytes > most_bytes)
        return failure(fmt::format("The program has {} bytes; {} are read at most.", bytes, most_bytes),
                       files.front().name, "Give the files of the program alone, without libraries.");
    return {};
}

} // namespace

Result<SyntaxTree> parse_program(const std::vector<SourceText>& files, const ParseOptions& options) {
    if (files.empty()) return failure("There is no program.", "", "Give its files, or paste its text.");
    if (auto fine = look_at_texts(files); !fine) return tl::make_unexpected(fine.error());
    std::vector<SourceText> named = files;
    for (SourceText& file : named)
        if (file.name.empty() || named.size() == 1) file.name = is_unit(file.name) ? file.name : "program.ino";
    Found known;
    for (int i = 0;; ++i) {
        SyntaxTree tree = begin_tree(named);
        Found found;
        if (!pass(named, options, known, tree, found))
            return failure("The program is larger than any that fits on such a board.", named.front().name,
                           "Give the files of the program alone, without libraries.");
        const bool library = !tree.unknown_headers.empty() || !options.eight_bit;
        Found next = known;
        next.prototypes = found.prototypes;
        next.declared = found.declared;
        // A function that is only used before it stands there is no library's.
        if (library && next.prototypes == known.prototypes) {
            next.unknown_types.insert(found.unknown_types.begin(), found.unknown_types.end());
            for (const std::string& name : found.unknown_names)
                if (!next.declared.contains(name)) next.unknown_names.insert(name);
            for (const auto& [type, members] : found.unknown_members)
                if (next.unknown_types.contains(type) || type.starts_with("not_here_"))
                    next.unknown_members[type].insert(members.begin(), members.end());
        }
        const bool errors = !tree.said.empty();
        if (errors && next != known && i + 1 < most_passes) {
            known = next;
            continue;
        }
        if (errors) {
            note_what_is_certain(tree, known);
            return tree;
        }
        if (tree.setup == program::nothing || tree.loop == program::nothing)
            return failure(fmt::format("There is no {}().", tree.setup == program::nothing ? "setup" : "loop"),
                           named.front().name, "A board's program has both; give all its files.");
        return tree;
    }
}

} // namespace cognitum::reader
