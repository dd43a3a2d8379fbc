/** How far and how naturally a voice is heard. What the other folders may use. */

export { CardJudge, canJudge, type JudgedCard } from './cardJudge.ts';
export { cardWords, comparisonWords } from './comparison.ts';
export { frontier } from './frontier.ts';
