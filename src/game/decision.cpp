#include "arvek/game/decision.hpp"

namespace arvek {

const char* name_of(ScoreKind kind) {
    switch (kind) {
        case ScoreKind::Exact: return "exact";
        case ScoreKind::Lower: return "lower";
        case ScoreKind::Upper: return "upper";
        case ScoreKind::Shallow: return "shallow";
        case ScoreKind::Estimate: break;
    }
    return "estimate";
}

const char* name_of(StoppedBy reason) {
    switch (reason) {
        case StoppedBy::End: return "end";
        case StoppedBy::Depth: return "depth";
        case StoppedBy::Nodes: return "nodes";
        case StoppedBy::Playouts: return "playouts";
        case StoppedBy::Time: return "time";
        case StoppedBy::Stop: return "stop";
        case StoppedBy::Rule: return "rule";
        case StoppedBy::Draw: break;
    }
    return "draw";
}

const char* name_of(RuleKind kind) {
    switch (kind) {
        case RuleKind::Rule: return "rule";
        case RuleKind::Change: return "change";
        case RuleKind::Fallback: return "fallback";
        case RuleKind::TieBreak: return "tie-break";
        case RuleKind::Care: return "care";
        case RuleKind::Book: break;
    }
    return "book";
}

}  // namespace arvek
