import { describe, expect, it } from 'vitest';
import { readReport } from './report.ts';

/** What is said on the air, and what is read in it: signal; remarks with sense and degree; [advice as dial lines]. */
const SAID = `
You're 5 and 9 plus 20, a bit boomy => RS 59+20; boomy is slight
could use more top => muffled is slight; [highs up a bit]
no longer muffled => muffled less plain
not muffled at all => muffled is-not plain
a little muffled, try 3 more at 2400 => muffled is slight; [2400 +3]
you sound great, clean and clear => good is plain
very boomy, way too much bass => boomy is strong
some hum on your signal => hum is slight
it's all bass => boomy is plain
I miss the highs => muffled is plain
the second one has more presence => muffled less plain
it could have more presence => muffled is plain; [high mids up a bit]
sounds like you're talking into a pillow => muffled is plain
a bit sharp on the s sounds => sibilance is slight
your noise gate chops the first syllable => breaking-up is plain
the p's are blasting => plosives is plain
you sound like low power into the machine => low-audio is plain
lots of carrier, not much audio => under-modulated is strong
no trash either side => splatter is-not plain
you are driving it a bit hard => overdrive is slight
I can hear you on the other side too => opposite-sideband is plain
clean skirts on the panadapter => good is plain
sounds like broadcast => good is plain
your noise is coming up between words => noisy-background is plain room
you are 2.8 khz wide => nothing
you are 4 khz wide => wide is plain
I hear you 4 khz up => splatter is plain
no hum, no distortion => hum is-not plain; distortion is-not plain
I can hear your fan in the background => noisy-background is plain room
you're splattering 5 up => splatter is plain
the audio is low, you need more mic gain => low-audio is plain; [mic up a bit]
pretty good but a touch harsh on the top => good is plain; harsh is slight
less boomy than before => boomy less plain
more muffled than last time => muffled more plain
it's much better now => good more plain
worse than before, try backing off the 400 by two => good less plain; [400 -2]
your p's are popping => plosives is plain
sounds like you're in a barrel => echo is plain room
there's some QSB => fading is slight path
you are in the noise => noise-limited is plain path
a bit over compressed => over-compressed is slight
way overdriven, flat topping => overdrive is strong; flat-tops is plain
tinny, needs more bass => thin is plain; [lows up a bit]
thin and tinny => thin is plain
nice and mellow => good is plain; mellow is plain
telephone quality => narrow-audio is plain
you're breaking up => breaking-up is plain
my noise reduction makes you sound hollow => echo is plain receiver
you're overloading my receiver => receiver-overload is plain receiver
not bad at all => good is strong
the hum is gone => hum less plain
five by nine, beautiful audio, no complaints => RS 59; good is plain
five seven with fading => RS 57; fading is plain path
S7, weak but readable => RS -7; noise-limited is plain path
you have a carrier under your voice => carrier-leak is plain
a little off frequency => off-frequency is slight
lots of distortion on peaks => distortion is strong
very wide, about 4 khz => wide is strong
kind of nasal => mid-rangey is slight
still a bit boomy => boomy is slight
isn't boomy any more => boomy less plain
not as boomy => boomy less plain
needs a bit more highs => muffled is slight; [highs up a bit]
too much compression, back it down => over-compressed is plain
Add 3 dB at 2.4k and take 2 off at 200 => [2400 +3, 200 -2]
muy buena señal => nothing
under-deviated, low audio => narrow-deviation is plain; low-audio is plain
full quieting => good is plain
armchair copy => good is plain
you could use a little less bass => boomy is slight; [lows down a bit]
slightly distorted audio => distortion is slight
sharp => harsh is plain
a bit on the thin side => thin is slight
peaky and mid-rangey => harsh is plain; mid-rangey is plain
lip smacks => mouth-noise is plain
background noise => noisy-background is plain room
sounds excellent here => good is plain
20 over nine, booming in => RS -9+20; loud is plain
audio is down a bit => low-audio is slight
your audio seems a bit low compared with yesterday => low-audio is slight
crisp and punchy => good is plain
the highs are missing => muffled is plain
no highs => muffled is plain
bottom heavy => boomy is plain
hissing esses => sibilance is plain
sibilant => sibilance is plain
I hear some room echo => echo is slight room
a bit dull, bring up the highs by 2 => muffled is slight; [highs +2]
sounds natural => good is plain
not good => good is-not plain
not very clear => muffled is slight
can't complain => good is plain
5 9 => RS 59
you're 57 here with heavy QSB and a slight hum => RS 57; fading is strong path; hum is slight
warm, full, no distortion => mellow is plain; distortion is-not plain
much brighter now => muffled less plain
cleaner than last week => good more plain
popping on plosives => plosives is plain
very low audio, speak up => low-audio is strong
you are very loud but distorted => loud is strong; distortion is plain
perfect => good is plain
no comment => nothing
could stand a bit more low end => thin is slight
`;

describe('reports as they are said', () => {
  it.each(
    SAID.trim()
      .split('\n')
      .map((line) => line.split(' => ')),
  )('%s', (text, wanted) => {
    const { signal, remarks, advice } = readReport(text);
    const over = signal?.overS9Db == null ? '' : `+${signal.overS9Db}`;
    const read = [
      ...(signal ? [`RS ${signal.readability ?? '-'}${signal.strength ?? '-'}${over}`] : []),
      ...remarks.map(({ code, sense, degree, about }) => `${code} ${sense} ${degree}${about === 'signal' ? '' : ` ${about}`}`),
      ...advice.map(({ line }) => `[${line}]`),
    ];
    expect(read.join('; ') || 'nothing').toBe(wanted);
  });

  it('the advice in them is a line that the dial line reads', () => {
    expect(readReport('try three more at twenty four hundred and two less at two hundred').advice.map(({ line }) => line)).toEqual([
      '2400 +3, 200 -2',
    ]);
    expect(readReport('too much compression').advice).toEqual([]);
  });

  it('never breaks on anything', () => {
    for (const text of ['', '🎙️🎙️', 'not not not', 'no', '5', '59 59 59', '((((', 'x'.repeat(5000), 'a bit '.repeat(800)]) {
      expect(() => readReport(text)).not.toThrow();
    }
  });
});

describe('what tells and does not advise', () => {
  it('a width that is told is no advice', () => {
    expect(readReport('you are wide, taking up 4 kHz')).toMatchObject({ remarks: [{ code: 'wide' }], advice: [] });
  });
  it('a bucket is muffled', () => {
    expect(readReport("sounds like you're talking into a bucket").remarks.map(({ code }) => code)).toEqual(['muffled']);
  });
});
