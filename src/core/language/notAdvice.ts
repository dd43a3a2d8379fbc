/** Lines that ask for no move, whatever they name: questions to the operator, and what a station tells of itself or of what it hears. */
import { plain } from './tokens.ts';

const HEAD = '^\\s*(?:(?:so|and|ok|okay|well|now|but|hey|say|yes|no),?\\s+)*';

/** "What is your mic gain?", "is your compressor on": an answer is wanted. "What about 3 dB more?" asks for a move. */
const ASKS = new RegExp(
  `${HEAD}(?:(?:whats|what|which|wheres|who|why|(?:where|when) (?:is|are|was|do|does|did|will|can)|how (?:much|many|is|are|do|does|did))\\b(?! (?:about|if|happens|you (?:need|want|could|should)|i|id|we|might|would|helps)\\b)|(?:is|are|was|were|does|did)\\s+(?:you|your|the|that|it|this|there|my)\\b|(?:do|have|did)\\s+(?:you|your)\\b(?! (?:want|mind|fancy|think you)\\b)|tell me (?:what|where|which|how)\\b|can you (?:tell|hear|see|read)\\b)`,
);
/** "I was going to suggest 2 less at 400" is advice. */
const NO_ADVICE = '(?!.*\\b(?:think|thinking|wonder|wondering|suggest|say|recommend|advise|ask)\\b)';
/** What the other station does itself. */
const OWN = new RegExp(
  `${HEAD}(?:(?:i|we) (?:will|shall|am going|are going|was|were|likes?|liked|loves?|prefers?|preferred)\\b${NO_ADVICE}|(?:ill|im going)\\b${NO_ADVICE}|let me (?:turn|switch|move|change|try|check|listen|swing|rotate|put|see|know)\\b)`,
);
/** What is heard and seen of the signal. */
const HEARD = new RegExp(
  `${HEAD}(?:(?:i|we|he|she|they|(?:one|two|three|four|both|all|some) of us|(?:two|three|four|several) stations) (?:can |could |do |just |still |also )?(?:hears?|heard|sees?|saw|cop(?:y|ies)|reads?|got you|have you|had you|get you)\\b|(?:it|your (?:signal|audio|voice)|the (?:signal|audio|band)) (?:is|was|sounds|looks|comes|goes|seems|drops|fades)\\b|(?:looks|sounds|seems)\\b|(?:youre|you are|you were|you come|you go|youve been) (?:off|on|high|low|at|about|from|taking|using|coming|going|wide|in|down|up|\\d))`,
);
/** What another station has: "I have 100 watts here", "he runs a kilowatt". "I have 90 watts" may be the own meter. */
const HAS = '(?:just |only |still )?(?:(?:am |are |is )?(?:running|using|on)|runs?|uses?|has|have|have got|got|had)\\b';
const AT_HOME = '(?:here|over here|(?:this|my) end|at home|elements?|dipole|doublet|beam|yagi|quad|vertical|wire|amplifier|linear)';
const STATION = new RegExp(
  `${HEAD}(?:(?:i|im|we|were) ${HAS}.*\\b(?:\\d+ ?w|watts?|kw|kilowatts?)\\b.*\\b${AT_HOME}\\b|(?:he|she|they|hes|shes|theyre) ${HAS}.*\\b(?:\\d+ ?w|watts?|kw|kilowatts?)\\b)`,
);
/** A request all the same: "I hear you need 3 more at 2.4". */
const REQUEST =
  /\b(?:take|bring|cut|drop|raise|put|set|make|turn|try|add|give|needs?|wants?|could (?:use|do with)|would|id|go (?:to|up|down|back)|move|reduce|lower|boost|pull|push|open|narrow|widen|back (?:off|it)|switch|knock|bump|ease|more|less|too (?:much|little|high|low|hot|loud|strong))\b/;
/** "Count to five": what is to be said into the microphone. */
const SAY = new RegExp(
  `${HEAD}(?:please )?(?:(?:try|keep|start|just|go on) )*(?:count(?:ing)?|say(?:ing)?|talk(?:ing)?|speak(?:ing)?|whistl(?:e|ing)|read(?:ing)?|give me (?:a )?(?:count|long|short|test|call|ten seconds|\\d+ seconds|five seconds|fifteen seconds)|wait|hold|one moment|(?:that|this)s? (?:is )?the one)\\b`,
);

const wordsOf = (text: string): string => plain(text).replaceAll("'", '');

/** Whether a line asks for an answer and not for a move. */
export const isQuestion = (text: string): boolean => ASKS.test(wordsOf(text));

/** Whether a line tells of the power of another station. */
export const isOfAnother = (text: string): boolean => STATION.test(wordsOf(text));

/** Whether a line tells something, or says what to say, and asks for no move. */
export function isTelling(text: string): boolean {
  const words = wordsOf(text);
  return OWN.test(words) || SAY.test(words) || (HEARD.test(words) && !REQUEST.test(words));
}
