/** What stations say of a signal, and which remark it is. Common practice; matched in lower case, the longest first. */
import { FINDING_LABELS, type FindingCode } from '../findings/index.ts';

/** Remarks that only an ear gives, as they are said. */
const BY_EAR = {
  good: 'good',
  'low-audio': 'low audio',
  loud: 'loud',
  'breaking-up': 'breaking up',
  fading: 'fading',
  echo: 'echo',
  mellow: 'mellow',
  'mid-rangey': 'mid-rangey',
  'over-compressed': 'over-compressed',
  'noisy-background': 'noisy background',
  'mouth-noise': 'mouth noise',
  'narrow-audio': 'narrow audio',
} as const;
/** A remark's name: a finding's, or one that only an ear gives. */
export type RemarkCode = FindingCode | keyof typeof BY_EAR;
/** The codes as operators say them. */
export const REMARK_LABELS: Readonly<Record<RemarkCode, string>> = { ...FINDING_LABELS, ...BY_EAR };
/** Every code. */
export const REMARK_CODES = Object.keys(REMARK_LABELS) as RemarkCode[];
/** It is so, is not, is less so or more so than before. */
export const REMARK_SENSES = ['is', 'is-not', 'less', 'more'] as const;
export type RemarkSense = (typeof REMARK_SENSES)[number];
export const REMARK_DEGREES = ['slight', 'plain', 'strong'] as const;
export type RemarkDegree = (typeof REMARK_DEGREES)[number];
/** Whose doing it is, as far as the words go. */
export const REMARK_ABOUTS = ['signal', 'path', 'receiver', 'room'] as const;
export type RemarkAbout = (typeof REMARK_ABOUTS)[number];

export interface RemarkEntry {
  readonly form: RegExp;
  readonly code: RemarkCode;
  readonly about: RemarkAbout;
  /** What the words themselves say of it: "boomier", "thunderous". */
  readonly sense?: RemarkSense;
  readonly degree?: RemarkDegree;
}

const entry = (code: RemarkCode, words: string, extra: Partial<RemarkEntry> = {}): RemarkEntry => ({
  form: new RegExp(`(?<![\\w-])(?:${words.replaceAll(/\s*\n\s*/g, '')})(?![\\w-])`, 'g'),
  code,
  about: 'signal',
  ...extra,
});

const LOWS = '(?:bass|lows?|low[ -]end|bottom(?:[ -]end)?|low frequenc(?:y|ies)|low stuff)';
const HIGHS =
  '(?:treble|highs?|high[ -]end|top(?:[ -]end)?|high frequenc(?:y|ies)|presence|air|intelligibility|articulation|crispness|sparkle|brightness|clarity)';
/** "2.8 kHz wide" is what a voice takes. */
const NO_WIDTH = '(?<!\\b(?:[012](?:\\.\\d+)?|3(?:\\.[012]\\d*)?) ?(?:k|khz|kc|kilohertz)? )';
const MIDS = '(?:mids?|mid[ -]?range|honk)';
const AUDIO = '(?:audio|mic(?:rophone)? gain|mike gain|mic|gain|volume|level|modulation|drive|punch)';
const SOME = '(?:some|any|much|a (?:bit|little|touch|tad|lot)(?: more| of)?|more|extra|a little bit(?: more| of)?|the|your|of|in|all)';
const NEEDS =
  '(?:need(?:s|ing)?|could (?:use|do with|stand)|can use|wants?|would like|lacks?|lacking|missing|misses|miss|short (?:of|on)|light (?:on|in)|weak (?:on|in)|not enough|not much|no|without|hardly any|little)';
const TOO_MUCH =
  '(?:too much|way too much|a lot of|lots of|heavy on|a bit much|plenty of|excess(?:ive)?|loads of|so much|too many|overdone on|over ?emphasi[sz]ed|big on|strong on)';
const LESS = '(?:less|reduce|cut|lower|back off|drop|turn down|take (?:out|off|down))';

/** "could use some more top": the words between the need and what is needed. */
const needs = (what: string): string => `${NEEDS}(?: ${SOME})* ${what}`;
const more = (what: string): string =>
  `(?:some )?more (?:of )?(?:the |your )?${what}|${what} (?:is |are )?(?:missing|lacking|gone|not there|down)`;
/** "The second one has more top": no wish. */
const has = (what: string): string =>
  `(?:has|(?<!\\b(?:could|should|would|might|must|can|to|ll) )(?:have|got)|gives|gave|theres|there is) (?:(?:a (?:bit|little|lot)|some|much|way) )?more ${what}`;
const tooMuch = (what: string): string =>
  `${TOO_MUCH}(?: of| in| on)?(?: the| your)* ${what}|${what}[ -]heavy|heavy (?:in|on)(?: the| your)* ${what}|${what} (?:is |are )?(?:a (?:bit|little) )?(?:too |very )?(?:heavy|much|strong|overpowering|dominant|loud|prominent|boosted)`;
const less = (what: string): string =>
  `(?:could use|needs?|could do with|would like|a (?:bit|little)|try|use|with|want)?(?: a (?:bit|little|touch))? ?${LESS} (?:of )?(?:the |your )?${what}`;

export const REMARKS: readonly RemarkEntry[] = [
  // Tone
  entry(
    'boomy',
    'boom(?:y|ing|iness)|bass[iy]e?|bassy|(?:all|nothing but|only) (?:bass|lows|bottom(?: end)?)|bottom[ -]heavy|tubby|woofy|chesty|barrel[ -]chested|rumbl(?:y|ing)|heavy bottom|fat',
  ),
  entry('boomy', tooMuch(LOWS)),
  entry('boomy', less(LOWS)),
  entry('boomy', 'boomier|bassier|heavier', { sense: 'more' }),
  entry(
    'muffled',
    `muffled|muffledness|mufflly|muffly|muddy|muddied|mud|dull|dark|wooll?y|mushy|murky|indistinct|blanket(?:ed)?|under a (?:blanket|pillow)|in(?:to)? a (?:bucket|box|sack|tin can|pillow|sock|blanket)|
cloudy|veiled|smothered|unclear|not (?:very |too |so |that |really )?(?:crisp|clear|bright|articulate)|hard to understand|mumbl(?:y|ed|ing)|
like (?:you have |youve got )?a (?:sock|pillow|blanket|hand) over (?:the|your) mic`,
  ),
  entry('muffled', needs(HIGHS)),
  entry('muffled', more(HIGHS)),
  entry('muffled', has(HIGHS), { sense: 'less' }),
  entry('muffled', 'duller|darker|muddier', { sense: 'more' }),
  entry('muffled', 'brighter|crisper', { sense: 'less' }),
  entry('thin', 'thin|tinny|reedy|hollow sounding bass|weedy|no body|lacks? body|anaemic|anemic|skinny|all highs|all treble|all top'),
  entry('thin', needs(`(?:${LOWS}|body|warmth|fullness|depth)`)),
  entry('thin', more(`(?:${LOWS}|body|warmth|fullness)`)),
  entry('thin', has(`(?:${LOWS}|body|warmth|fullness)`), { sense: 'less' }),
  entry('thin', 'thinner|tinnier', { sense: 'more' }),
  entry('thin', 'fuller|bassier now', { sense: 'less' }),
  entry(
    'harsh',
    'harsh|shrill|strident|piercing|sharp|peaky|edgy|screechy|grating|abrasive|bright|brittle|hard on the ears?|hurts? my ears?|spiky|biting|toppy',
  ),
  entry('harsh', tooMuch(HIGHS)),
  entry('harsh', less(HIGHS)),
  entry('harsh', 'harsher|sharper|shriller', { sense: 'more' }),
  entry('mid-rangey', 'mid[ -]?rangey?|middy|honky|nasal|boxy|mid[ -]heavy|nosey|quacky'),
  entry('mid-rangey', tooMuch(MIDS)),
  entry('mid-rangey', less(MIDS)),
  entry('mellow', 'mellow|smooth|warm|velvety|silky|soft and warm|rich'),
  entry('mellow', 'mellower|warmer|smoother', { sense: 'more' }),
  entry(
    'sibilance',
    "sibilan(?:t|ce)|essy|spitty|(?:your |the )?s(?:'|es|ses) (?:are )?(?:hissing|hissy|sharp|sizzling|strong)|hissy (?:s|esses)|hissing (?:s|s?es|esses)|(?:sharp|harsh|hard|hot|strong|heavy) on (?:the |your )?(?:s|ss|esses|s (?:sounds?|es))|sizzl(?:y|ing)|whistling s(?:es)?|lisp(?:y|ing)?",
  ),
  entry(
    'narrow-audio',
    'narrow(?: audio| sounding)?|restricted|telephone(?:[ -](?:like|quality|audio))?|like (?:a |the |you are on the )?(?:tele)?phone|pinched|constricted|band ?limited|squeezed',
  ),
  // Level and dynamics
  entry(
    'low-audio',
    `(?:low|weak|quiet|faint|soft|light|thin) (?:on )?(?:audio|modulation|mic gain|volume|voice|level)|(?:audio|modulation|voice|volume|mic gain|level) (?:is |was |seems |sounds |was a (?:bit|little) |is a (?:bit|little) |is very |is too |is rather |a (?:bit|little) |very |too |pretty |kind of |kinda )*(?:low|weak|quiet|down|soft|faint)|
(?:can )?(?:hardly|barely) hear (?:your (?:audio|voice|modulation)|you talking)|under ?powered audio|not much audio|too quiet|very quiet|quiet`,
  ),
  entry('low-audio', needs(AUDIO)),
  entry(
    'low-audio',
    `more ${AUDIO}|turn up (?:the |your )?(?:audio|mic|gain|volume)|hard to hear|like low power|too far (?:away )?from (?:the|your) mic(?:rophone)?|speak up|talk louder|closer to the mic|get closer`,
  ),
  entry('low-audio', 'weaker|quieter|fainter', { sense: 'more' }),
  entry(
    'loud',
    'loud|booming in|boomin in|blasting|hot|too loud|pounding in|pinning (?:the|my) (?:meter|needle)|huge signal|big signal|strong|armchair loud',
  ),
  entry('loud', 'louder|stronger|punchier', { sense: 'more' }),
  entry(
    'over-compressed',
    'over[ -]?compress(?:ed|ing|ion)|over[ -]?processed|squashed|pump(?:ing|y)|compressed|too compressed|squeezed flat|heavily processed|too processed|processed|no dynamics|crushed',
  ),
  entry('over-compressed', tooMuch('(?:compression|processing|speech processing|compressor|comp|processor)')),
  entry('over-compressed', less('(?:compression|processing|comp|compressor|processor)')),
  entry(
    'distortion',
    'distort(?:ed|ion|ing|s)?|fuzz(?:y)?|rasp(?:y|iness)|gritty|crunchy|gravelly|rough|garbled|crackl(?:y|ing|es?)|broken audio|scratchy|ragged|buzzy audio|dirty|breaking up on peaks|growly',
  ),
  entry(
    'overdrive',
    `over[ -]?driv(?:en|ing|e)|over[ -]?dr(?:iven|iving)|driving (?:it |the (?:rig|amp|finals|amplifier) )?(?:too|a (?:bit|little)|rather|pretty) (?:too )?hard|pushing (?:it|the amp|the rig) too hard`,
  ),
  entry('overdrive', tooMuch('(?:drive|mic gain|mike gain|gain|alc)')),
  entry('flat-tops', 'flat[ -]?topping|flat[ -]?tops?|flat[ -]?topped'),
  entry('clipping', 'clip(?:ping|ped|s)'),
  entry('good', 'punch(?:y)?|good punch|lots of punch|nice punch|cuts through|plenty of audio'),
  // Width and neighbours
  entry(
    'splatter',
    'splatter(?:ing|s)?|(?:trash|crud|garbage|junk|hash) (?:(?:on )?(?:either|both|each) sides?|\\d[^.;,]*(?:out|up|down|away|off)\\b)|spreading|buckshot|bleed(?:ing)?(?: over)?|adjacent[ -]channel|(?:hear(?:ing)?|hitting|getting) you (?:up|down|two|three|four|five|\\d)[^.;]*(?:khz|kc|k|up|down|away)\\b|spilling over|spurs?|all over the band|splash(?:ing)?',
  ),
  entry('wide', `(?:too |very |a (?:bit|little) |pretty |really |quite )?${NO_WIDTH}wide|broad|taking up (?:a lot of|too much|\\d)[^,.;]*`),
  entry('opposite-sideband', '(?:opposite|other|unwanted|wrong[ -]side) (?:side ?band|side)'),
  entry('wrong-sideband', '(?:on the )?wrong side ?band|on (?:lower|upper)? ?side ?band by mistake|donald duck'),
  entry(
    'carrier-leak',
    'carrier(?: leak(?:age)?)?(?: (?:under|behind|beneath) (?:it|you|your (?:voice|audio|signal)))?|residual carrier|heterodyne|whistle',
  ),
  entry(
    'off-frequency',
    'off[ -]?freq(?:uency)?|off[ -]?channel|(?:a (?:bit|little|touch|hair) |slightly |\\d+ ?(?:hz|hertz|cycles) )(?:high|low) (?:in|on) (?:frequency|freq)|(?:up|down) (?:\\d+ ?)?(?:hz|hertz|cycles)|drift(?:ing|y|s)?|not on frequency|slightly (?:high|low)(?= \\d)',
  ),
  entry(
    'hum',
    'hum(?:ming)?|a\\.?c\\.? hum|buzz(?:ing)?|60[ -](?:cycle|hertz|hz)(?: hum)?|50[ -](?:cycle|hertz|hz)(?: hum)?|mains hum|alternator whine',
  ),
  // Mouth, mic, room
  entry(
    'plosives',
    `pop(?:ping|s)?(?: (?:your )?p'?s)?|(?:the |your )p'?s? (?:are |is )?(?:blasting|exploding|booming|popping|thumping)|p-?pops?|plosives?|breath (?:blasts?|noise on the mic)|blowing (?:in|into|on) the mic|puff(?:s|ing)|your p'?s (?:are )?(?:popp(?:ing)?|thump(?:ing)?)|thump(?:ing|s)?(?: on (?:your )?p'?s)?|wind(?: noise)? (?:on|in) the mic`,
  ),
  entry('mouth-noise', 'mouth (?:noise|noises|clicks|sounds)|lip smack(?:s|ing)?|smacking|breathing|breath sounds|swallowing|saliva'),
  entry(
    'noisy-background',
    `(?:noisy |some |lots of |a lot of |loud )?background(?: noise| noises| sounds?| hiss)?|room noise|(?:your )?noise (?:is )?(?:coming|comes|creeping|rising|pumping) up(?: between (?:the )?(?:words|overs|sentences))?|noise between (?:the |your )?words|noisy (?:room|shack|background)|fans?(?: noise| running)?|blower|(?:hear|hearing) (?:the |your |a )?(?:room|fan|fans|blower|kids|dog|dogs|tv|television|traffic|keyboard|air ?con(?:ditioner|ditioning)?|computer|clock|birds|music|shack)(?: noise)?|dog barking|air conditioner|computer noise|tv in the background`,
    { about: 'room' },
  ),
  entry(
    'echo',
    'echo(?:ey|y|es|ing)?|reverb(?:erant|eration)?|hollow|like (?:you are |youre )?(?:in|inside) a (?:barrel|bathroom|cave|tunnel|can|tin can|drum|box|hall|well|bucket)|roomy|cavernous|room(?:y)? sound|barrel',
    { about: 'room' },
  ),
  // Path and receiver
  entry(
    'fading',
    'fad(?:ing|es|e|ed|y)|qsb|(?:in and out|up and down)(?! (?:two|\\d))|flutter(?:y|ing)?|coming and going|selective fading|dropp(?:ing|ed) (?:down|way down)|slow rolling',
    { about: 'path' },
  ),
  entry(
    'breaking-up',
    'break(?:ing|s)? up|broke up|(?:chop|clip|cut)s? (?:off )?(?:the )?(?:first|last|beginning|ends?)[^,.;]*|broken(?: up)?|cut(?:ting|s)? (?:in and )?out|drop(?:ping|s)? out|dropouts?|chopp(?:y|ed|ing)|intermittent|missing (?:syllables|words)|losing (?:words|syllables|you)|clipped words',
  ),
  entry(
    'noise-limited',
    'in the (?:noise|mud|dirt|weeds)|into the noise|noise level|noisy (?:band|path|conditions|here|copy)|(?:lots of |a lot of |some |heavy |local )?(?:qrm|qrn|static|static crashes|interference)|barely (?:readable|copy|copying|audible|hear you|above the noise)|weak(?: signal| here| but readable)?|down in the (?:noise|mud)|esp level|scratching through|light copy|faint|hardly (?:readable|hear you)',
    { about: 'path' },
  ),
  entry(
    'receiver-overload',
    'overload(?:ing|s|ed)? (?:my |the )?(?:receiver|front end|rx|radio)|(?:swamping|flattening|desens(?:ing|ed|e)?) (?:my |the )?(?:receiver|front end|rx)|blowing (?:out )?my (?:receiver|front end|speakers?)',
    { about: 'receiver' },
  ),
  // FM and AM
  entry(
    'under-modulated',
    'under[ -]?modulat(?:ed|ing|ion)|lots of carrier(?: and| but|,)? (?:not much|little|low|no) (?:audio|modulation|voice)|low(?:ly)? modulat(?:ed|ion)|not (?:fully )?modulated',
  ),
  entry('over-modulated', 'over[ -]?modulat(?:ed|ing|ion)'),
  entry(
    'narrow-deviation',
    '(?:low|narrow|not enough|little|under)[ -]?deviat(?:ion|ing|ed)|deviation (?:is )?(?:a (?:bit|little) |too |very )?(?:low|narrow|down)',
  ),
  entry(
    'over-deviation',
    'over[ -]?deviat(?:ing|ed|ion)|too much deviation|deviation (?:is )?(?:a (?:bit|little) |too |very )?(?:high|hot|wide)|wide deviation',
  ),
  entry('roll-off', 'rolls? off|rolled off|roll[ -]off|drops off (?:at|above|below)'),
  // Praise
  entry(
    'good',
    `good|great|excellent|fine(?= (?:audio|signal|business|copy|quality|report|sound))|fb|fine business|beautiful(?:ly)?|perfect(?:ly)?|nice(?:ly)?|lovely|clean|clear(?:ly)?|crisp|solid copy|solid|
broadcast quality|(?:sounds )?like (?:a )?broadcast(?:er| station)?|sounds broadcast|natural(?: sounding)?|like you(?:'?re| are) (?:in the room|next door|here|sitting here)|no complaints?|nothing wrong|armchair(?: copy)?|spot on|well[ -]balanced|balanced|full[ -]quieting|superb|outstanding|terrific|wonderful|
fantastic|impressive|super|amazing|all good|sounds right|ok|okay|easy (?:copy|to (?:copy|understand|listen to))|easily (?:copied|readable)|readable|intelligible|100 ?(?:%|percent)|q5|pleasant|just right|about right|no problems?|no issues?|booming signal|well done|bang on|satisfactory|decent|respectable|not bad|not too bad|not too shabby|cannot complain|can'?t complain`,
  ),
  entry(
    'good',
    'better|improved|improvement|clearer|cleaner|nicer|crisper|more readable|more natural|more intelligible|easier to (?:copy|understand)',
    { sense: 'more' },
  ),
  entry('good', 'worse|deteriorated|not as good|gone downhill|went downhill|harder to (?:copy|understand)|less readable', {
    sense: 'less',
  }),
];
