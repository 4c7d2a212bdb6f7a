// Expressions, calls and statements.
#include "reader/converter.h"

namespace cognitum::reader {

int Converter::expression(const clang::Expr* e) {
    using namespace clang;
    if (e->isTypeDependent() || e->isValueDependent() || e->containsErrors()) {
        if (isa<RecoveryExpr>(e)) {
            Node out = begin(NodeKind::not_known, e);
            out.word = text_of(e);
            return made_of(out, e->children());
        }
        if (e->isTypeDependent() && !e->containsErrors()) return unknown(e);
    }
    if (const auto* x = dyn_cast<ParenExpr>(e)) return node(x->getSubExpr());
    if (const auto* x = dyn_cast<ConstantExpr>(e)) return node(x->getSubExpr());
    if (const auto* x = dyn_cast<ExprWithCleanups>(e)) return node(x->getSubExpr());
    if (const auto* x = dyn_cast<MaterializeTemporaryExpr>(e)) return node(x->getSubExpr());
    if (const auto* x = dyn_cast<CXXBindTemporaryExpr>(e)) return node(x->getSubExpr());
    if (const auto* x = dyn_cast<CXXDefaultArgExpr>(e)) return node(x->getExpr());
    if (const auto* x = dyn_cast<CXXDefaultInitExpr>(e)) return node(x->getExpr());
    if (const auto* x = dyn_cast<SubstNonTypeTemplateParmExpr>(e)) return node(x->getReplacement());
    if (const auto* x = dyn_cast<OpaqueValueExpr>(e); x && x->getSourceExpr()) return node(x->getSourceExpr());
    if (const auto* x = dyn_cast<IntegerLiteral>(e)) {
        const llvm::APInt v = x->getValue();
        return whole(e, static_cast<std::int64_t>(x->getType()->isSignedIntegerType()
                                                      ? v.getSExtValue()
                                                      : static_cast<std::int64_t>(v.getZExtValue())));
    }
    if (const auto* x = dyn_cast<CharacterLiteral>(e)) return whole(e, static_cast<std::int64_t>(x->getValue()));
    if (const auto* x = dyn_cast<CXXBoolLiteralExpr>(e)) return whole(e, x->getValue() ? 1 : 0);
    if (isa<CXXNullPtrLiteralExpr>(e) || isa<GNUNullExpr>(e) || isa<ImplicitValueInitExpr>(e) ||
        isa<CXXScalarValueInitExpr>(e))
        return whole(e, 0);
    if (const auto* x = dyn_cast<FloatingLiteral>(e)) {
        Node out = begin(NodeKind::real_number, e);
        out.real = x->getValueAsApproximateDouble();
        out.word = text_of(e);
        return add(out);
    }
    if (const auto* x = dyn_cast<clang::StringLiteral>(e)) {
        Node out = begin(NodeKind::text, e);
        out.word = x->getCharByteWidth() == 1 ? x->getString().str().substr(0, 4096) : std::string();
        return add(out);
    }
    if (const auto* x = dyn_cast<DeclRefExpr>(e)) {
        if (const auto* v = dyn_cast<VarDecl>(x->getDecl())) {
            Node out = begin(NodeKind::variable, e);
            out.target = variable(v);
            out.word = v->getNameAsString();
            return add(out);
        }
        if (const auto* f = dyn_cast<FunctionDecl>(x->getDecl())) {
            Node out = begin(NodeKind::function, e);
            out.target = function(f);
            out.word = f->getNameAsString();
            return add(out);
        }
        if (const auto* n = dyn_cast<EnumConstantDecl>(x->getDecl()))
            return whole(e, n->getInitVal().getExtValue());
        return unknown(e);
    }
    if (const auto* x = dyn_cast<UnaryExprOrTypeTraitExpr>(e)) {
        clang::Expr::EvalResult result;
        if (x->EvaluateAsInt(result, m_context)) return whole(e, result.Val.getInt().getExtValue());
        return unknown(e);
    }
    if (const auto* x = dyn_cast<MemberExpr>(e)) {
        if (const auto* field = dyn_cast<FieldDecl>(x->getMemberDecl())) {
            Node out = begin(NodeKind::member, e);
            out.word = field->getNameAsString();
            out.target = field_of(field);
            out.children = {node(x->getBase())};
            return add(out);
        }
        if (const auto* v = dyn_cast<VarDecl>(x->getMemberDecl())) {
            Node out = begin(NodeKind::variable, e);
            out.target = variable(v);
            return add(out);
        }
        return unknown(e);
    }
    if (const auto* x = dyn_cast<ArraySubscriptExpr>(e))
        return made(NodeKind::element, e, "[]", {x->getBase(), x->getIdx()});
    if (const auto* x = dyn_cast<BinaryOperator>(e)) // with the ones that assign
        return made(x->isAssignmentOp() ? NodeKind::assign : NodeKind::binary, e, x->getOpcodeStr().str(),
                    {x->getLHS(), x->getRHS()});
    if (const auto* x = dyn_cast<UnaryOperator>(e)) {
        std::string word = UnaryOperator::getOpcodeStr(x->getOpcode()).str();
        if (x->isIncrementDecrementOp()) word = x->isPrefix() ? word + "x" : "x" + word;
        if (x->getOpcode() == UO_Extension || x->getOpcode() == UO_Plus) return node(x->getSubExpr());
        return made(NodeKind::unary, e, word, {x->getSubExpr()});
    }
    if (const auto* x = dyn_cast<clang::ConditionalOperator>(e))
        return made(NodeKind::choice, e, "?", {x->getCond(), x->getTrueExpr(), x->getFalseExpr()});
    if (const auto* x = dyn_cast<CastExpr>(e)) {
        switch (x->getCastKind()) {
        case CK_LValueToRValue:
        case CK_ArrayToPointerDecay:
        case CK_FunctionToPointerDecay:
        case CK_BuiltinFnToFnPtr:
        case CK_NoOp:
        case CK_DerivedToBase:
        case CK_UncheckedDerivedToBase:
        case CK_ConstructorConversion:
        case CK_UserDefinedConversion: return node(x->getSubExpr());
        default: break;
        }
        Node out = begin(NodeKind::convert, e);
        out.written = isa<ExplicitCastExpr>(e);
        out.word = x->getCastKindName();
        out.children = {node(x->getSubExpr())};
        return add(out);
    }
    if (const auto* x = dyn_cast<CallExpr>(e)) return call(x);
    if (const auto* x = dyn_cast<CXXConstructExpr>(e)) {
        if (x->getConstructor()->isCopyOrMoveConstructor() && x->getNumArgs() >= 1) return node(x->getArg(0));
        Node out = begin(NodeKind::construct, e);
        if (!x->getConstructor()->isDefaulted()) out.target = function(x->getConstructor());
        return made_of(out, x->arguments());
    }
    if (const auto* x = dyn_cast<InitListExpr>(e)) {
        Node out = begin(NodeKind::list, e);
        return made_of(out, x->inits());
    }
    if (isa<CXXThisExpr>(e)) return add(begin(NodeKind::this_object, e));
    if (const auto* x = dyn_cast<LambdaExpr>(e)) {
        Node out = begin(NodeKind::function, e);
        out.target = function(x->getCallOperator());
        m_tree.functions[static_cast<std::size_t>(out.target)].is_method = false;
        return add(out);
    }
    return unknown(e);
}

int Converter::call(const clang::CallExpr* e) {
    using namespace clang;
    const FunctionDecl* called = e->getDirectCallee();
    Node out = begin(NodeKind::call, e);
    if (!called) { // through a pointer: [0] is what it points to
        out.word = "pointer";
        std::vector<const Stmt*> inside = {e->getCallee()};
        inside.insert(inside.end(), e->arg_begin(), e->arg_end());
        return made_of(out, inside);
    }
    // A lambda as a pointer to a function is the function itself.
    if (isa<CXXConversionDecl>(called))
        if (const auto* of = dyn_cast<CXXMemberCallExpr>(e))
            if (const auto* record = of->getRecordDecl(); record && record->isLambda())
                return node(of->getImplicitObjectArgument());
    // What the language itself copies is no call.
    if (const auto* method = dyn_cast<CXXMethodDecl>(called);
        method && method->isDefaulted() &&
        (method->isCopyAssignmentOperator() || method->isMoveAssignmentOperator()) && e->getNumArgs() == 2)
        return made(NodeKind::assign, e, "=", {e->getArg(0), e->getArg(1)});
    out.target = function(called);
    out.word = called->getQualifiedNameAsString();
    // A lambda that is called: what it holds of its surroundings is looked up there.
    if (const auto* method = dyn_cast<CXXMethodDecl>(called); method && method->getParent()->isLambda()) {
        m_tree.functions[static_cast<std::size_t>(out.target)].is_method = false;
        return made_of(out, std::vector<const Stmt*>(e->arg_begin() + 1, e->arg_end()));
    }
    std::vector<const Stmt*> inside;
    if (const auto* member = dyn_cast<CXXMemberCallExpr>(e)) inside.push_back(member->getImplicitObjectArgument());
    inside.insert(inside.end(), e->arg_begin(), e->arg_end());
    return made_of(out, inside);
}

int Converter::statement(const clang::Stmt* s) {
    using namespace clang;
    if (const auto* x = dyn_cast<CompoundStmt>(s)) return made_of(begin(NodeKind::block, s), x->body());
    if (const auto* x = dyn_cast<DeclStmt>(s)) {
        Node out = begin(NodeKind::block, s);
        out.word = "declare";
        for (const Decl* d : x->decls()) {
            const auto* v = dyn_cast<VarDecl>(d);
            if (!v) continue;
            Node one = begin(NodeKind::declare, s);
            one.target = variable(v);
            const int init = m_tree.variables[static_cast<std::size_t>(one.target)].init;
            if (init != nothing) one.children = {init};
            out.children.push_back(add(one));
        }
        return add(out);
    }
    if (const auto* x = dyn_cast<IfStmt>(s)) {
        const int made_if = made(NodeKind::if_else, s, "if", {x->getCond(), x->getThen(), x->getElse()});
        if (!x->getInit() && !x->getConditionVariableDeclStmt()) return made_if;
        Node out = begin(NodeKind::block, s);
        if (x->getInit()) out.children.push_back(node(x->getInit()));
        if (x->getConditionVariableDeclStmt()) out.children.push_back(node(x->getConditionVariableDeclStmt()));
        out.children.push_back(made_if);
        return add(out);
    }
    if (const auto* x = dyn_cast<ForStmt>(s))
        return made(NodeKind::loop, s, "for", {x->getInit(), x->getCond(), x->getInc(), x->getBody()});
    if (const auto* x = dyn_cast<WhileStmt>(s))
        return made(NodeKind::loop, s, "while", {nullptr, x->getCond(), nullptr, x->getBody()});
    if (const auto* x = dyn_cast<DoStmt>(s))
        return made(NodeKind::loop, s, "do", {nullptr, x->getCond(), nullptr, x->getBody()});
    if (const auto* x = dyn_cast<CXXForRangeStmt>(s)) {
        // begin and end are declared by the language; each turn declares the loop's own variable.
        Node body = begin(NodeKind::block, s);
        body.children = {node(x->getLoopVarStmt()), node(x->getBody())};
        const int turn = add(body);
        Node loop = begin(NodeKind::loop, s);
        loop.word = "for";
        const int condition = node(x->getCond());
        const int after = node(x->getInc());
        loop.children = {nothing, condition, after, turn};
        const int whole_loop = add(loop);
        Node out = begin(NodeKind::block, s);
        out.children = {node(x->getRangeStmt()), node(x->getBeginStmt()), node(x->getEndStmt()), whole_loop};
        return add(out);
    }
    if (const auto* x = dyn_cast<SwitchStmt>(s))
        return made(NodeKind::choose, s, "switch", {x->getCond(), x->getBody()});
    if (const auto* x = dyn_cast<CaseStmt>(s))
        return made(NodeKind::choose_case, s, "case", {x->getLHS(), x->getSubStmt()});
    if (const auto* x = dyn_cast<DefaultStmt>(s))
        return made(NodeKind::choose_case, s, "default", {nullptr, x->getSubStmt()});
    if (const auto* x = dyn_cast<ReturnStmt>(s)) return made(NodeKind::give_back, s, "return", {x->getRetValue()});
    if (isa<BreakStmt>(s)) return add(begin(NodeKind::leave, s));
    if (isa<ContinueStmt>(s)) return add(begin(NodeKind::next_turn, s));
    if (isa<NullStmt>(s) || isa<AsmStmt>(s)) return add(begin(NodeKind::block, s));
    if (const auto* x = dyn_cast<AttributedStmt>(s)) return node(x->getSubStmt());
    if (const auto* x = dyn_cast<LabelStmt>(s)) return node(x->getSubStmt());
    return unknown(s);
}

} // namespace cognitum::reader
