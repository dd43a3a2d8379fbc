/** The words of advice: which name something, which say where to, and which say nothing. */
import type { Token } from './tokens.ts';

/** Parts of the voice by name. */
export type Region = 'lows' | 'low mids' | 'mids' | 'high mids' | 'highs';
/** Dials by what they are for. */
export type Place = 'mic' | 'compressor' | 'carrier' | 'fm width' | 'power' | 'equalizer' | 'passband' | 'low cut' | 'high cut';
/** Meters that are read. */
export type Meter = 'alc' | 'compression' | 'power' | 'swr' | 'next channel';
export type BandPart = 'centre' | 'level' | 'width';
/** Where a dial goes, in a word. */
export type ValueWord =
  | 'on'
  | 'off'
  | 'flat'
  | 'min'
  | 'max'
  | 'before'
  | 'keep'
  | 'narrowest'
  | 'widest'
  | 'narrower'
  | 'wider'
  | 'half again'
  | MeterWord;
/** Where a needle stands, in a word. */
export type MeterWord = 'in the zone' | 'end of the zone' | 'at rest' | 'just moves' | 'pinned';

/** What a word or a phrase says. */
export type Item =
  | { readonly kind: 'place'; readonly place: Place }
  | { readonly kind: 'region'; readonly region: Region }
  | { readonly kind: 'which'; readonly which: 'low' | 'mid' | 'high' | number }
  | { readonly kind: 'meter'; readonly meter: Meter }
  | { readonly kind: 'part'; readonly part: BandPart }
  | { readonly kind: 'value'; readonly value: ValueWord }
  | { readonly kind: 'turn'; readonly sign: 1 | -1; readonly isVerb: boolean }
  | { readonly kind: 'vague'; readonly size: 1 | 2 }
  | { readonly kind: PlainKind };

/** Words that say one thing each. */
type PlainKind =
  | 'filler'
  | 'to'
  | 'by'
  | 'at'
  | 'on the'
  | 'off the'
  | 'in'
  | 'out'
  | 'back'
  | 'from'
  | 'than'
  | 'through'
  | 'between'
  | 'above'
  | 'below'
  | 'or more'
  | 'or less'
  | 'reads'
  | 'again'
  | 'half back'
  | 'distance'
  | 'other way'
  | 'undo'
  | 'and'
  | 'then'
  | 'retune'
  | 'hotter'
  | 'band'
  | 'menu'
  | 'all'
  | 'rest';

type Entry = readonly [words: string, item: Item];

/** Phrases in a row, a comma between them; or as they are. */
const listed = (words: string | readonly string[]): readonly string[] =>
  typeof words === 'string' ? words.split(',').map((each) => each.trim().replace(/\s+/g, ' ')) : words;
const entries = (item: Item, words: string | readonly string[]): Entry[] => listed(words).map((each) => [each, item]);
const place = (of: Place, words: string | readonly string[]): Entry[] => entries({ kind: 'place', place: of }, words);
const region = (of: Region, words: string): Entry[] => entries({ kind: 'region', region: of }, words);
const value = (of: ValueWord, words: string | readonly string[]): Entry[] => entries({ kind: 'value', value: of }, words);
const turn = (sign: 1 | -1, isVerb: boolean, words: string): Entry[] => entries({ kind: 'turn', sign, isVerb }, words);
const meter = (of: Meter, words: string | readonly string[]): Entry[] => entries({ kind: 'meter', meter: of }, words);
const part = (of: BandPart, words: string): Entry[] => entries({ kind: 'part', part: of }, words);
const vague = (size: 1 | 2, words: string): Entry[] => entries({ kind: 'vague', size }, words);
const which = (of: 'low' | 'mid' | 'high' | number, words: readonly string[]): Entry[] => entries({ kind: 'which', which: of }, words);
const plainKind = (kind: PlainKind, words: string): Entry[] => entries({ kind }, words);
const oneOf = (heads: readonly string[], tails: readonly string[]): string[] =>
  heads.flatMap((head) => tails.map((tail) => `${head} ${tail}`));

const THINGS = ['one', 'slider', 'band', 'knob', 'fader'];
const MICS = ['mic', 'mike', 'microphone'];

const ENTRIES: readonly Entry[] = [
  ...place('mic', [...MICS, ...oneOf(MICS, ['gain', 'level'])]),
  ...place('mic', 'gain, audio gain, mg, input gain, audio level'),
  ...place('compressor', 'comp, comps, compression, compressor, proc, processor, processing, speech, pr'),
  ...place('compressor', oneOf(['speech', 'rf'], ['processor', 'proc', 'compressor', 'compression', 'processing'])),
  ...place('compressor', oneOf(['comp', 'compression', 'compressor', 'processor', 'proc'], ['level', 'amount', 'gain'])),
  ...place('carrier', 'carrier, offset, carrier offset, carrier point, bfo, bfo offset'),
  ...place('fm width', 'fm width, fm, deviation, channel width, fm mode width'),
  ...place('power', 'power, pwr, drive, rf power, rf, output power, power level'),
  ...place('equalizer', `eq, equalizer, equaliser, e q, mic eq, tx eq, mic equalizer, transmit equalizer, transmit eq`),
  ...place('passband', 'bw, tbw, bandwidth, filter, filters, passband, tx filter, transmit filter, tx bandwidth'),
  ...place('passband', `transmit bandwidth, audio bandwidth, transmit passband, ssb filter, filter width, tx width, transmit width`),
  ...place(
    'passband',
    oneOf(['open it', 'open', 'widen it', 'widen', 'narrow it', 'narrow', 'tighten it'], ['up to', 'out to', 'down to', 'in to', 'to']),
  ),
  ...place('low cut', 'low cut, low edge, lower edge, bottom edge, lowcut, high pass'),
  ...place('high cut', 'high cut, high edge, upper edge, top edge, highcut, low pass'),
  ...region('lows', `low, lows, low end, bottom, bottom end, bass, low frequencies, lower end, low side, bass end, body`),
  ...region('low mids', 'low mids, lower mids, low mid, lower midrange'),
  ...region('mids', 'mid, mids, midrange, mid range, middle, middles, mid frequencies, middle range'),
  ...region('high mids', 'high mids, upper mids, high mid, upper midrange, presence'),
  ...region('highs', `high, highs, top, top end, treble, high end, high frequencies, upper end, tops, trebles, high side`),
  ...plainKind(
    'all',
    `tone controls, tone knobs, both knobs, both bands, both sliders, both of them, everything, all of it, all of them, all bands, all sliders, all the sliders, all the bands, all, the lot, whole eq,
    every slider, every band, whole equalizer, sliders, faders, bands`,
  ),
  ...which('low', oneOf(['low', 'lowest', 'bottom', 'bass', 'left', 'leftmost', 'far left'], THINGS)),
  ...which('mid', oneOf(['mid', 'middle', 'centre', 'center'], THINGS)),
  ...which('high', oneOf(['high', 'highest', 'top', 'treble', 'last', 'rightmost', 'far right'], THINGS)),
  ...['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth'].flatMap((word, k) =>
    which(k + 1, oneOf([word], THINGS)),
  ),
  ...meter('alc', 'alc, a l c, alc meter, alc reading, meter, needle, alc needle, meter needle'),
  ...meter('compression', oneOf(['comp', 'compression', 'compressor', 'processor'], ['meter', 'reading', 'indicator'])),
  ...meter('power', 'power meter, power out, output, power output, wattmeter, watt meter, peak power, po, pep'),
  ...meter('swr', 'swr, s w r, vswr, standing wave, swr meter, swr needle'),
  ...meter('next channel', 'next channel, adjacent channel, neighbouring channel, analyser, spectrum analyser'),
  ...part('centre', 'centre, center, freq, frequency, centre frequency, center frequency'),
  ...part('level', 'level'),
  ...part('width', 'width, q, band width, widths'),
  ...value('on', `on, engaged, enabled, enable, engage, activate, switch in, turn on, switch on, switched on, kick in`),
  ...value('off', `off, kill, bypass, disable, turn off, switch off, switched off, lose, disengage, shut off, no, without`),
  ...value('flat', 'flat, flatten, flatten out, zero out, reset, to nothing, neutral'),
  ...value(
    'min',
    `min, minimum, fully down, all the way down, all the way out, all way down, right down, way down, bottom out, fully off, fully
    counterclockwise, as low as it goes, lowest, get rid of`,
  ),
  ...value(
    'max',
    `max, maximum, full, full scale, fully up, all the way up, all way up, right up, wide open, flat out, max out, maxed out,
    maxed, as high as it goes, highest`,
  ),
  ...value(
    'before',
    `back to what it was, back where it was, back to where it was, back to what they were, back to where they were, as it
    was, where it was, what it was, back as it was, back how it was, the way it was, original, original value, back to
    before, as before, back to where you had it, where you had it, back where you had it, where it stood`,
  ),
  ...value(
    'keep',
    `hold, hold it, leave, leave alone, leave it, alone, dont touch, do not touch, dont change, do not change, stays, stay, is fine, is
    good, is ok, is okay, where it is, where they are, as is, as it is, unchanged, are fine, keep, is alright, is all right`,
  ),
  ...value('narrowest', 'narrowest, narrow, tightest, narrow one, narrowest one, narrow setting'),
  ...value('widest', 'widest, wide, broad, broadest, full width, wide one, widest one, wide setting'),
  ...value('narrower', 'narrower, tighter, tighten, narrow down, narrow up, tighten up'),
  ...value('wider', 'wider, broader, open up, widen, widen out, open it up'),
  ...value('in the zone', 'in the zone, inside the zone, within the zone, well in the zone, middle of the zone, in the middle of the zone'),
  ...value(
    'end of the zone',
    oneOf(['end', 'top', 'edge', 'top edge', 'upper edge'], ['of the zone', 'of the marked zone', 'of the bar', 'of the range']),
  ),
  ...value(
    'at rest',
    'doesnt move, does not move, isnt moving, is not moving, not moving, not moving at all, doesnt budge, does not budge, doesnt show, shows nothing, showing nothing, at rest',
  ),
  ...value(
    'just moves',
    oneOf(
      ['barely', 'hardly', 'scarcely', 'just', 'only just', 'is barely', 'is hardly', 'is just'],
      ['moves', 'moving', 'twitches', 'twitching', 'budges', 'budging'],
    ),
  ),
  ...value(
    'pinned',
    'pinned, pegged, buried, off scale, off the scale, against the stop, against the peg, at the stop, at the end stop, at the peg, full deflection',
  ),
  ...value('half again', 'in half, by half, halve, half of what it is'),
  ...turn(-1, true, 'ease up on, let up on, lay off, lay off on, go easy on, easy on, go light on, lighten up on, ease off on'),
  ...turn(1, false, 'up, more, higher, louder, clockwise, back in, extra, another, stronger, upwards, back up'),
  ...turn(-1, false, `down, less, lower, fewer, counterclockwise, anticlockwise, downwards, softer, quieter, cooler, back down, on down`),
  ...turn(
    1,
    true,
    `raise, boost, add, increase, bring up, lift, push, push up, bump, bump up, crank, crank up, turn up, move up, come up,
    go up, advance, nudge up, run up, step up, kick up, goose, slide up, roll up, up it, jack up, boosted, raised,
    dial up, ride up, raising, boosting, adding, increasing, bringing up, lifting, pushing up, turning up, bumping up,
    going up, running up, cranking up`,
  ),
  ...turn(
    -1,
    true,
    `cut, reduce, drop, lower it, bring down, turn down, pull, pull down, pull back, knock, knock down, take, take down, take
    off, take out, shave, shave off, trim, back off, ease off, ease back, ease, decrease, come down, go down, move down,
    roll off, roll back, nudge down, drop off, dial back, dial down, tame, scoop, scoop out, dip, duck, cut back, cut down,
    throttle back, back it off, back it down, attenuate, subtract, lose some, step down, slide down, remove, come back,
    crank down, wind back, wind down, roll, cutting, reducing, dropping, bringing down, turning down, pulling, pulling back,
    pulling down, taking, taking off, taking out, trimming, backing off, easing off, lowering, decreasing, going down,
    rolling off, backing down, knocking, dialing back`,
  ),
  ...plainKind('hotter', 'hotter'),
  ...vague(
    1,
    `a bit, a little, a little bit, a touch, a tad, a hair, slightly, some, a smidge, just a touch, just a hair, a bit of,
    a touch of, a little of, somewhat, a nudge, bit, touch, little, tad, smidgen, a smidgen, a whisker, marginally,
    a little bit of, a dash, a dash of, a shade, a notch or two, any`,
  ),
  ...vague(2, 'a lot, a whole lot, much, way, lots, lots of, a lot of, plenty, plenty of, a good bit, a good deal, quite a bit, well'),
  ...plainKind(
    'to',
    `to, at about, down to, up to, back to, over to, out to, should be, should be at, is at, are at, is now, is set
    to, goes to, is on, is, are, equals, becomes, be, to about, back down to, back up to, sits at, stands at, reads, set to,
    set at, it to, put it at, set it at, put it to, set it to, being, now at, all the way to, all the way down to, all the way up to`,
  ),
  ...plainKind('by', 'by'),
  ...plainKind('at', `at, around, near, up around, down around, centred on, centered on, somewhere around, out around, over at`),
  ...plainKind(
    'on the',
    `on the, in the, of the, on your, in your, of your, for the, to the, to your, onto, into, of, with the, with, on that,
    for`,
  ),
  ...plainKind('off the', `off the, off of, off of the, off your, from the, from your, out of the, out of, out of your`),
  ...plainKind('in', 'in'),
  ...plainKind('out', 'out, out of line, out of the line, out of the chain, out of circuit, out of the circuit, out of the path'),
  ...plainKind('back', 'back'),
  ...plainKind('from', 'from, starting from'),
  ...plainKind(
    'than',
    `than you have now, than now, than you have, than what you have, than it is, than before, than it is now, than you have
    it, than where it is, from where it is, from where it is now, from where you are, from there, from here, over what you
    have, from where it was, from what you have, from what you have now, on top of that, than it was, than that, than you
    had, from where you have it, than where you are, than youve got, than you got, from where youre at, than what youve got,
    than you have there, above where it is, below where it is, than where it was, from where they are`,
  ),
  ...plainKind('or more', `and up, and above, and over, and higher, or above, or higher, and upwards, on up, and beyond`),
  ...plainKind('or less', 'and below, and under, and down, and lower, or below, or lower, and downwards, on down'),
  ...plainKind('through', 'through, thru, up through'),
  ...plainKind('between', 'between'),
  ...plainKind('below', 'below, under, beneath, lower than, anything below, from there down'),
  ...plainKind('above', 'above, over, beyond, higher than, north of, upwards of, past'),
  ...plainKind(
    'reads',
    `reading, showing, shows, reads, indicating, indicates, peaking, peaks, hitting, kicking, bouncing, swinging, getting,
    hits, touches, touching, kisses, kissing, comes up to, coming up to, goes up to, goes, overshoots to, shoots to, shoots up to, jumps to, swings up to, says, peaking at, peaks at, reading about, reading at, bouncing at, swinging to, bouncing around, peaking around,
    sitting, sitting at, sitting around, sitting about, hovering, hovering around, hovering at, flickering, flickering at, flickering around, dancing
    around, kicking to, hitting about, kicks to, is reading, is showing, is peaking`,
  ),
  ...plainKind(
    'again',
    `same again, the same again, again, do that again, once more, one more time, more of the same, same thing again, and
    again, another one, another of those, repeat that, repeat, ditto, one more of those, same, the same, likewise, do the same, same thing, the same thing, too,
    as well`,
  ),
  ...plainKind(
    'undo',
    `undo, undo that, take that back, scratch that, undo it, undo the last, undo the last one, undo last, undo that last one, undo last one, undo that one, undo the last move, back where you were,
    back to where you were, go back to where you were, go back, go back to
    what it was, put it back, put that back, cancel that, back out, revert, revert that, strike that, never mind that,
    forget that, put it back where it was, put it back to what it was, put it back the way it was, put it back how it was,
    back to what it was, back to where it was, back where it was, undo last change, undo the last change, put that back
    where it was, put that back the way it was`,
  ),
  ...plainKind('half back', 'halfback, split the difference'),
  ...plainKind('other way', 'the other way, other way, wrong way, wrong direction, the wrong way, other direction, the other direction'),
  ...plainKind('and', 'and, also, plus, as well as, both'),
  ...plainKind('then', 'then, and then, but, after that, next, while, with that'),
  ...plainKind('retune', 'move, shift, slide, retune, move over, sweep'),
  ...plainKind('band', 'band, eq band, slider, fader, number'),
  ...plainKind('filler', 'that too much, that is too much, that too far, that a bit too much, that a bit much, too far'),
  ...plainKind(
    'filler',
    `is too much, are too much, is way too much, is a bit much, is a bit too much, is too strong, are too strong, is too hot, is too loud, is a touch
    hot, are a touch hot, is a bit hot, are a bit hot, is a little hot, are a little hot, is hot, are hot, are too hot, the same
    slider, same slider, the same band, same band, the same dial, same dial, that same slider, that same one, the same one, that better, that is better, much better`,
  ),
  ...plainKind('menu', 'menu, item, menu item, menu number, #, function, setting, address, parameter'),
  ...plainKind(
    'filler',
    'on peaks, on the peaks, on speech peaks, on voice peaks, on my peaks, on your peaks, at the peaks, on the loud ones',
  ),
  ...entries(
    { kind: 'distance' },
    oneOf(
      oneOf(
        ['move', 'back', 'step', 'lean', 'sit', 'stay', 'get', 'come', 'go', 'pull'],
        ['back', 'away', 'off', 'away a bit', 'back a bit', 'back a little', 'back a touch'],
      ),
      oneOf(['from the', 'from your', 'from that', 'off the'], MICS),
    ),
  ),
  ...entries(
    { kind: 'distance' },
    oneOf(
      oneOf(
        ['move', 'step', 'lean', 'get', 'come', 'go', 'talk', 'speak', 'stay'],
        ['closer', 'close', 'nearer', 'in', 'closer in', 'a bit closer', 'a little closer'],
      ),
      oneOf(['to the', 'to your', 'on the', 'into the'], MICS),
    ),
  ),
  ...entries(
    { kind: 'distance' },
    oneOf(oneOf(['talk', 'speak'], ['across', 'past', 'over', 'to the side of']), oneOf(['the', 'your'], MICS)),
  ),
  ...plainKind(
    'filler',
    `no change, no difference, no real difference, no noticeable difference, no audible difference, not much difference, not much of a difference, cannot tell the
    difference, cant tell the difference, cant tell any difference, cannot tell any difference, hear no difference, cannot hear any difference, cant hear any difference, dont
    hear any difference, sounds the same, about the same, much the same, the same as before, same as before, no different`,
  ),
  ...plainKind(
    'filler',
    'at all, thank you very much, thank you so much, very much, many thanks, thanks a lot, best regards, go ahead, back to you, over to you, stand by',
  ),
  ...plainKind('rest', 'the rest, rest, everything else, all the others, the others, all others'),
];

/** What says nothing; looked up last, so that a phrase that says something is found first. */
const SILENT = new Set(
  `a an the your my our his her this that it its it's them these those you i we he they im youre id ive youve let lets
  could would should can may might will do does did please just about try maybe perhaps think see seeing hear use using
  want need needs have has got get gets give me us like so ok okay yeah yes yep well now right there here um uh er ah hmm
  oh for put putting set turn make go run dial adjust change bring keep going what happens if how when know say said says
  with only even still where which looks probably suggest recommend suggestion knob knobs control controls switch button
  setting settings around roughly approximately approx something somewhere call im thinking guess om old man mate friend
  round next over roger copy fine thanks thank very start starting really quite position value number thats signal audio
  voice sound radio rig side more slider sliders band hz on in to of at as be is are was each both completely entirely all
  pop peak pretty maybe whatever say hi hello there's then also lets'd gonna wanna gotta guys folks again ill well we'll
  your's one ones while until since because too up-front front panel menu frequency frequencies range
  went away whole thing things better em db decibel decibels minute moment mark tonight wants wanting long longer vowel word words stretched sustained count counting held shout shouting ahh aah ohh qsl bye`
    .split(/\s+/)
    .map((word) => word.replaceAll("'", '')),
);

const byLength = new Map<string, { words: readonly string[]; item: Item }[]>();
for (const [words, item] of ENTRIES) {
  const list = words.split(' ');
  const known = byLength.get(list[0]) ?? [];
  known.push({ words: list, item });
  byLength.set(list[0], known);
}
for (const known of byLength.values()) known.sort((a, b) => b.words.length - a.words.length);

const wordAt = (tokens: readonly Token[], at: number): string | null => {
  const token = tokens[at];
  return token?.kind === 'word' ? token.text : null;
};

/** Every phrase that begins at a token, the longest first. @returns how many tokens each takes */
export function phrasesAt(tokens: readonly Token[], at: number): { item: Item; length: number }[] {
  const first = wordAt(tokens, at);
  if (first === null) return [];
  const found = (byLength.get(first) ?? [])
    .filter(({ words }) => words.every((word, k) => wordAt(tokens, at + k) === word))
    .map(({ words, item }) => ({ item, length: words.length }));
  return found.length > 0 ? found : SILENT.has(first) ? [{ item: { kind: 'filler' }, length: 1 }] : [];
}
