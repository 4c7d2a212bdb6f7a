// Declarations: places, types, records, variables, functions.
#include "reader/converter.h"

#include <algorithm>
#include <clang/AST/Attr.h>
#include <clang/Basic/SourceManager.h>
#include <clang/Lex/Lexer.h>

namespace cognitum::reader {

namespace {

constexpr std::size_t most_nodes = 400000;
constexpr int deepest = 300;

} // namespace

Converter::Converter(clang::ASTContext& context, SyntaxTree& tree, const std::map<std::string, Inserted>& inserted)
    : m_context(context), m_sources(context.getSourceManager()), m_tree(tree), m_inserted(inserted) {
    for (std::size_t i = 0; i < tree.files.size(); ++i)
        m_files[tree.files[i].name] = static_cast<int>(i);
}

bool Converter::run() {
    visit_scope(m_context.getTranslationUnitDecl());
    // What is called decides what else is wanted: methods and instances of templates.
    for (std::size_t i = 0; i < m_wanted.size() && !m_full; ++i)
        body_of(m_wanted[i]);
    return !m_full;
}

CodePlace Converter::place(clang::SourceLocation begin, clang::SourceLocation end) {
    CodePlace out;
    const clang::SourceLocation at = m_sources.getExpansionLoc(begin);
    if (at.isInvalid()) return out;
    const auto file = m_sources.getFileEntryForID(m_sources.getFileID(at));
    if (!file) return out;
    const auto known = m_files.find(plain_name(file->getName().str()));
    if (known == m_files.end()) return out;
    out.file = known->second;
    out.line = static_cast<int>(m_sources.getExpansionLineNumber(at));
    out.column = static_cast<int>(m_sources.getExpansionColumnNumber(at));
    const clang::SourceLocation last =
        end.isValid() ? m_sources.getExpansionRange(end).getEnd() : m_sources.getExpansionRange(begin).getEnd();
    const unsigned token =
        clang::Lexer::MeasureTokenLength(m_sources.getExpansionLoc(last), m_sources, m_context.getLangOpts());
    if (static_cast<int>(m_sources.getExpansionLineNumber(last)) == out.line)
        out.length = static_cast<int>(m_sources.getExpansionColumnNumber(last) + token) - out.column;
    if (const auto more = m_inserted.find(known->first);
        more != m_inserted.end() && more->second.line == out.line && out.column >= more->second.column)
        out.column = std::max(1, out.column - static_cast<int>(more->second.text.size()));
    return out;
}

std::string Converter::text_of(const clang::Stmt* s) {
    const auto range =
        clang::CharSourceRange::getTokenRange(m_sources.getExpansionRange(s->getSourceRange()).getAsRange());
    return clang::Lexer::getSourceText(range, m_sources, m_context.getLangOpts()).str().substr(0, 200);
}

int Converter::type(clang::QualType given) {
    const clang::QualType plain = given.getNonReferenceType().getCanonicalType().getUnqualifiedType();
    const auto known = m_types.find(plain.getAsOpaquePtr());
    if (known != m_types.end()) return known->second;
    const int index = static_cast<int>(m_tree.types.size());
    m_types[plain.getAsOpaquePtr()] = index;
    m_tree.types.emplace_back();
    CodeType out;
    out.name = given.getNonReferenceType().getUnqualifiedType().getAsString(m_context.getPrintingPolicy());
    out.kind = CodeType::Kind::other;
    if (plain->isVoidType()) {
        out.kind = CodeType::Kind::none;
    } else if (plain->isBooleanType()) {
        out.kind = CodeType::Kind::boolean;
        out.bits = 1;
        out.is_signed = false;
    } else if (plain->isIntegralOrEnumerationType()) {
        out.kind = CodeType::Kind::integer;
        out.bits = plain->isIncompleteType() ? 16 : static_cast<int>(m_context.getTypeSize(plain));
        out.is_signed = plain->isSignedIntegerOrEnumerationType();
    } else if (plain->isFloatingType()) {
        out.kind = CodeType::Kind::floating;
        out.bits = static_cast<int>(m_context.getTypeSize(plain));
    } else if (plain->isFunctionPointerType() || plain->isFunctionType() || plain->isMemberFunctionPointerType()) {
        out.kind = CodeType::Kind::function;
    } else if (plain->isPointerType()) {
        out.kind = CodeType::Kind::pointer;
        out.element = type(plain->getPointeeType());
    } else if (const auto* array = m_context.getAsConstantArrayType(plain)) {
        out.kind = CodeType::Kind::array;
        out.count = static_cast<int>(std::min<std::uint64_t>(array->getSize().getZExtValue(), 1 << 20));
        out.element = type(array->getElementType());
    } else if (const auto* record = plain->getAsCXXRecordDecl()) {
        out.kind = CodeType::Kind::record;
        out.record = record_of(record);
        out.name = record->getQualifiedNameAsString();
    }
    m_tree.types[static_cast<std::size_t>(index)] = out;
    return index;
}

int Converter::record_of(const clang::CXXRecordDecl* declared) {
    const auto* record = declared->getDefinition() ? declared->getDefinition() : declared;
    const auto known = m_records.find(record);
    if (known != m_records.end()) return known->second;
    const int index = static_cast<int>(m_tree.records.size());
    m_records[record] = index;
    m_tree.records.emplace_back();
    Record out;
    out.name = record->getQualifiedNameAsString();
    // A base's fields come first; of a union each field has a slot of its own, which is said nowhere.
    if (record->hasDefinition() && !record->isDependentType()) {
        for (const auto& base : record->bases())
            if (const auto* of = base.getType()->getAsCXXRecordDecl()) {
                const Record& inner = m_tree.records[static_cast<std::size_t>(record_of(of))];
                out.fields.insert(out.fields.end(), inner.fields.begin(), inner.fields.end());
                out.types.insert(out.types.end(), inner.types.begin(), inner.types.end());
                out.defaults.insert(out.defaults.end(), inner.defaults.begin(), inner.defaults.end());
            }
        for (const clang::FieldDecl* field : record->fields()) {
            m_fields[field] = {index, static_cast<int>(out.fields.size())};
            out.fields.push_back(field->getNameAsString());
            out.types.push_back(type(field->getType()));
            out.defaults.push_back(field->hasInClassInitializer() && field->getInClassInitializer()
                                       ? node(field->getInClassInitializer())
                                       : nothing);
        }
    }
    m_tree.records[static_cast<std::size_t>(index)] = out;
    if (record->hasDefinition() && !record->isDependentType())
        for (const clang::CXXMethodDecl* method : record->methods())
            if (method->isVirtual() && !clang::isa<clang::CXXDestructorDecl>(method)) {
                const int f = function(method);
                m_tree.records[static_cast<std::size_t>(index)].virtuals.emplace_back(method->getNameAsString(), f);
            }
    return index;
}

int Converter::variable(const clang::VarDecl* declared) {
    const clang::VarDecl* first = declared->getCanonicalDecl();
    const auto known = m_variables.find(first);
    if (known != m_variables.end()) return known->second;
    const int index = static_cast<int>(m_tree.variables.size());
    m_variables[first] = index;
    const clang::VarDecl* defined = declared->getDefinition() ? declared->getDefinition() : declared;
    Variable out;
    out.name = declared->getNameAsString();
    out.type = type(declared->getType());
    out.is_reference = declared->getType()->isReferenceType();
    out.is_volatile = declared->getType().isVolatileQualified();
    if (const auto* array = m_context.getAsArrayType(declared->getType()))
        out.is_volatile = out.is_volatile || array->getElementType().isVolatileQualified();
    out.is_const = declared->getType().isConstQualified();
    out.is_global = declared->isFileVarDecl();
    out.is_static = declared->isStaticLocal();
    out.place = place(defined->getLocation());
    m_tree.variables.push_back(out);
    if (defined->getInit() && !isa<clang::ParmVarDecl>(defined)) {
        const int init = node(defined->getInit());
        m_tree.variables[static_cast<std::size_t>(index)].init = init;
    }
    return index;
}

int Converter::function(const clang::FunctionDecl* declared) {
    const clang::FunctionDecl* first = declared->getCanonicalDecl();
    const auto known = m_functions.find(first);
    if (known != m_functions.end()) return known->second;
    const int index = static_cast<int>(m_tree.functions.size());
    m_functions[first] = index;
    CodeFunction out;
    out.name = declared->getQualifiedNameAsString();
    out.result = type(declared->getReturnType());
    out.returns_reference = declared->getReturnType()->isReferenceType();
    const auto* method = dyn_cast<clang::CXXMethodDecl>(declared);
    out.is_method = method && !method->isStatic();
    out.is_virtual = method && method->isVirtual();
    out.is_constructor = isa<clang::CXXConstructorDecl>(declared);
    out.place = place(declared->getLocation());
    out.is_interrupt = declared->hasAttr<clang::AnnotateAttr>();
    m_tree.functions.push_back(out);
    m_wanted.push_back(declared);
    return index;
}

void Converter::body_of(const clang::FunctionDecl* declared) {
    const int index = m_functions.at(declared->getCanonicalDecl());
    const clang::FunctionDecl* defined = declared;
    if (!declared->hasBody(defined)) {
        const clang::FunctionDecl* pattern = declared->getTemplateInstantiationPattern();
        if (!pattern || !pattern->hasBody(defined)) return;
        return; // an instance that nobody needed in full
    }
    if (defined->isDependentContext()) return;
    std::vector<int> parameters;
    for (const clang::ParmVarDecl* p : defined->parameters())
        parameters.push_back(variable(p));
    std::vector<int> initialised;
    if (const auto* constructor = dyn_cast<clang::CXXConstructorDecl>(defined))
        for (const clang::CXXCtorInitializer* one : constructor->inits()) {
            if ((one->isBaseInitializer() || one->isDelegatingInitializer()) && one->getInit()) {
                initialised.push_back(base_of(one->getInit(), defined));
                continue;
            }
            if (!one->isMemberInitializer() || !one->getInit()) continue;
            Node assign;
            assign.kind = NodeKind::assign;
            assign.word = "=";
            assign.place = place(one->getSourceLocation());
            Node member;
            member.kind = NodeKind::member;
            member.word = one->getMember()->getNameAsString();
            member.type = type(one->getMember()->getType());
            member.target = field_of(one->getMember());
            member.place = assign.place;
            Node self;
            self.kind = NodeKind::this_object;
            self.place = assign.place;
            member.children = {add(self)};
            assign.type = member.type;
            const int left = add(member);
            const int right = node(one->getInit());
            assign.children = {left, right};
            initialised.push_back(add(assign));
        }
    const int body = node(defined->getBody());
    CodeFunction& out = m_tree.functions[static_cast<std::size_t>(index)];
    out.parameters = parameters;
    out.initialised = initialised;
    out.body = body;
    out.place = place(defined->getLocation());
}

int Converter::base_of(const clang::Expr* init, const clang::FunctionDecl* constructor) {
    if (const auto* inherited = dyn_cast<clang::CXXInheritedCtorInitExpr>(init)) {
        Node out = begin(NodeKind::construct, init);
        out.word = "base";
        out.target = function(inherited->getConstructor());
        for (const clang::ParmVarDecl* p : constructor->parameters()) {
            Node one;
            one.kind = NodeKind::variable;
            one.type = type(p->getType());
            one.target = variable(p);
            out.children.push_back(add(one));
        }
        return add(out);
    }
    const int made_base = node(init);
    Node& out = m_tree.nodes[static_cast<std::size_t>(made_base)];
    if (out.kind == NodeKind::construct) out.word = "base";
    return made_base;
}

int Converter::field_of(const clang::FieldDecl* field) {
    record_of(clang::cast<clang::CXXRecordDecl>(field->getParent()));
    const auto at = m_fields.find(field);
    if (at == m_fields.end()) return nothing;
    return m_tree.field_slot(at->second.first, at->second.second);
}

void Converter::visit_scope(const clang::DeclContext* scope) {
    for (const clang::Decl* d : scope->decls()) {
        if (m_full) return;
        if (const auto* inner = dyn_cast<clang::NamespaceDecl>(d)) visit_scope(inner);
        if (const auto* inner = dyn_cast<clang::LinkageSpecDecl>(d)) visit_scope(inner);
        if (const auto* v = dyn_cast<clang::VarDecl>(d);
            v && !v->getType()->isDependentType() && !v->isTemplated()) {
            const int index = variable(v);
            auto& globals = m_tree.globals;
            if (std::find(globals.begin(), globals.end(), index) == globals.end()) globals.push_back(index);
        }
        if (const auto* f = dyn_cast<clang::FunctionDecl>(d)) {
            if (!f->hasBody() || f->isDependentContext() || place(f->getLocation()).file == nothing) continue;
            const int index = function(f);
            if (f->getNameAsString() == "setup" && f->param_empty()) m_tree.setup = index;
            if (f->getNameAsString() == "loop" && f->param_empty()) m_tree.loop = index;
        }
    }
}

int Converter::add(Node node) {
    if (m_tree.nodes.size() >= most_nodes) {
        m_full = true;
        return 0;
    }
    m_tree.nodes.push_back(std::move(node));
    return static_cast<int>(m_tree.nodes.size()) - 1;
}

int Converter::node(const clang::Stmt* s) {
    if (!s) return nothing;
    if (m_full || m_depth >= deepest) return unknown(s);
    ++m_depth;
    const int out = isa<clang::Expr>(s) ? expression(clang::cast<clang::Expr>(s)) : statement(s);
    --m_depth;
    return out;
}

int Converter::unknown(const clang::Stmt* s) {
    Node out;
    out.kind = NodeKind::not_known;
    out.place = place(s->getBeginLoc(), s->getEndLoc());
    out.word = text_of(s);
    if (const auto* e = dyn_cast<clang::Expr>(s); e && !e->getType().isNull() && !e->isTypeDependent())
        out.type = type(e->getType());
    return add(out);
}

Node Converter::begin(NodeKind kind, const clang::Stmt* s) {
    Node out;
    out.kind = kind;
    out.place = place(s->getBeginLoc(), s->getEndLoc());
    if (const auto* e = dyn_cast<clang::Expr>(s); e && !e->getType().isNull()) out.type = type(e->getType());
    return out;
}

int Converter::made(NodeKind kind, const clang::Stmt* s, std::string word,
                    std::initializer_list<const clang::Stmt*> inside) {
    Node out = begin(kind, s);
    out.word = std::move(word);
    std::vector<int> children;
    for (const clang::Stmt* one : inside)
        children.push_back(node(one));
    out.children = std::move(children);
    return add(out);
}

int Converter::whole(const clang::Expr* e, std::int64_t value) {
    Node out = begin(NodeKind::whole_number, e);
    out.whole = value;
    out.word = text_of(e);
    return add(out);
}

bool convert_tree(clang::ASTContext& context, SyntaxTree& tree, const std::map<std::string, Inserted>& inserted) {
    return Converter(context, tree, inserted).run();
}

} // namespace cognitum::reader
