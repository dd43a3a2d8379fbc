/** Judgements: their names, severities and limits. What the other folders may use. */

export { FINDING_LABELS, type Finding, type FindingCode, named, standsOut } from './finding.ts';
export { AIR_MODES, type AirAnswer, type AirKind, type AirMode, type AirRow, type AirTest, airModeOf, fitForAir } from './fitForAir.ts';
export { judge, receiverFirst, worstFirst } from './judging.ts';
export { LIMIT_NAMES, LIMITS, type Limit, type LimitName, type OwnLimits } from './limits.ts';
export { overdrivenBy, spoiltBy } from './spoilt.ts';
export { STATE_WORDS, type State } from './state.ts';
