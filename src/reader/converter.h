// Walks the compiler's tree of a program and makes the evaluator's own: declarations, expressions, statements.
#pragma once

#include "reader/convert_tree.h"

#include <clang/AST/ASTContext.h>
#include <clang/AST/DeclCXX.h>
#include <clang/AST/ExprCXX.h>
#include <clang/AST/StmtCXX.h>
#include <map>

namespace cognitum::reader {

using namespace program;
using clang::dyn_cast;
using clang::isa;

class Converter {
  public:
    Converter(clang::ASTContext& context, SyntaxTree& tree, const std::map<std::string, Inserted>& inserted);
    bool run();

  private:
    CodePlace place(clang::SourceLocation begin, clang::SourceLocation end = {});
    std::string text_of(const clang::Stmt* s);
    int type(clang::QualType given);
    int record_of(const clang::CXXRecordDecl* declared);
    int variable(const clang::VarDecl* declared);
    int function(const clang::FunctionDecl* declared);
    void body_of(const clang::FunctionDecl* declared);
    /// The part of an object that its base makes.
    int base_of(const clang::Expr* init, const clang::FunctionDecl* constructor);
    /// Slot of a field in its record.
    int field_of(const clang::FieldDecl* field);
    void visit_scope(const clang::DeclContext* scope);
    int add(Node node);
    int node(const clang::Stmt* s);
    int unknown(const clang::Stmt* s);
    Node begin(NodeKind kind, const clang::Stmt* s);
    int made(NodeKind kind, const clang::Stmt* s, std::string word,
             std::initializer_list<const clang::Stmt*> inside);
    template <typename Range>
    int made_of(Node out, const Range& inside) {
        std::vector<int> children = out.children;
        for (const clang::Stmt* one : inside)
            children.push_back(node(one));
        out.children = std::move(children);
        return add(out);
    }
    int whole(const clang::Expr* e, std::int64_t value);
    int expression(const clang::Expr* e); // below: it is long
    int statement(const clang::Stmt* s);
    int call(const clang::CallExpr* e);
    clang::ASTContext& m_context;
    clang::SourceManager& m_sources;
    SyntaxTree& m_tree;
    const std::map<std::string, Inserted>& m_inserted;
    std::map<std::string, int> m_files;
    std::map<void*, int> m_types;
    std::map<const clang::CXXRecordDecl*, int> m_records;
    std::map<const clang::FieldDecl*, std::pair<int, int>> m_fields;
    std::map<const clang::VarDecl*, int> m_variables;
    std::map<const clang::FunctionDecl*, int> m_functions;
    std::vector<const clang::FunctionDecl*> m_wanted;
    int m_depth = 0;
    bool m_full = false;
};

} // namespace cognitum::reader
