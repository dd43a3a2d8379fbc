import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig } from '../rig/index.ts';
import { readDialLine } from './dialLine.ts';

/** Advice as operators say it, and what it sets on a card with the equalizer on and all else at factory values. */
const SAID: Readonly<Record<string, string>> = {
  'tern-100': `
processor in, 25 => processor=on processor-level=25
speech processor level up five => processor-level=25
proc at 30 => processor-level=30
set low band to 200 hz minus 4 => n-low-level=-4
band 1: 200 Hz -4 dB Q 3 => n-low-level=-4 n-low-width=3
make the mid band 1.2k down 3 => n-mid-level=-3
mid band at 1200, minus 3 => n-mid-level=-3
high band to 2500 plus 6 width 3 => n-high-centre=2500 n-high-level=6 n-high-width=3
shift the high band to 2.6 => n-high-centre=2600
centre of the low band to 200 => nothing
width of the high band 3 => n-high-width=3
high band wider => n-high-width=4
q of band 3 to 5 => nothing
4.11 = 200, 4.12 = -4, 4.13 = 3 => n-low-level=-4 n-low-width=3
4.11: 200 / 4.12: -4 / 4.13: 3 => n-low-level=-4 n-low-width=3
4.11 200 4.12 -4 4.13 3 4.14 1200 4.15 2 => n-low-level=-4 n-low-width=3 n-mid-level=2
4.11...4.13: 200 -4 3 => n-low-level=-4 n-low-width=3
mic 45 to 38 => mic-gain=38
take the mic from 45 down to 38 => mic-gain=38
wide filter please => tx-filter=100–2900
use the 300 to 2700 filter => nothing
2500 +3 => n-high-centre=2500 n-high-level=3
2.4k +3 => n-high-level=3
four clicks up at 2.4k from where it is => n-high-level=4
3 dB down at 1200 => n-mid-level=-3
eq2 +2 => n-mid-level=2
eq2 centre 900 => n-mid-centre=900
eq3 width 7 => n-high-width=7
mic 30 => mic-gain=30
mic up => mic-gain=46
comp on => processor=on
bw 200-2800 => tx-filter=200–2800
4.12 =−4 => n-low-level=-4
high band n level to 5 => n-high-level=5
2400 +3; mic 30 and comp on => n-high-level=3 mic-gain=30 processor=on
four more at 2.4 than you have now => n-high-level=4
take three off the 400 => n-low-centre=400 n-low-level=-3
knock the mic back to 30 => mic-gain=30
back the mic gain off a bit => mic-gain=43
you could use a bit more top => n-high-level=2
a little less bass please => n-low-level=-2
could you bring up the highs by three => n-high-level=3
try 3 dB more at 2400 => n-high-level=3
drop the low end two dB => n-low-level=-2
mic gain down 5 => mic-gain=40
mic gain up five => mic-gain=50
turn the mic down to 26 => mic-gain=26
mic 34 -> 30 => mic-gain=30
comp to half => processor-level=50
comp 30 percent => processor-level=30
compression two thirds => processor-level=67
processor off => nothing
turn off the compressor => nothing
turn the processor on => processor=on
kill the compressor => nothing
no compression => nothing
speech processor in => processor=on
set compression at 25 => processor-level=25
go to the 200 to 2800 filter => tx-filter=200–2800
narrowest filter => tx-filter=400–2600
open it up to 2900 => tx-filter=100–2900
100 to 2900 => tx-filter=100–2900
wide filter => tx-filter=100–2900
go narrow => tx-filter=400–2600
wider => tx-filter=200–2800
filter narrower => tx-filter=400–2600
eq off => mic-eq=off
eq flat => nothing
everything flat => nothing
flatten everything => nothing
everything below 300 down 3 => n-low-level=-3
everything above 2k up 2 => n-high-level=2
400 to 1.5k flat => nothing
250, 1k and 2k flat => n-low-centre=250 n-mid-centre=1000 n-high-centre=2000
alc is at two thirds => alc=0.667
alc point four => alc=0.4
alc 60 percent => alc=0.6
alc .6 => alc=0.6
alc is reading about a third => alc=0.333
alc peaks at half scale => alc=0.5
alc peaks at mid scale on a long ahh => alc=0.5
alc is in the middle => alc=0.5
alc about one third up the scale => alc=0.333
alc between a quarter and a half => alc=0.5
alc bouncing between .3 and .6 => alc=0.6
alc .2 to .4 => alc=0.4
alc barely moving => alc=0.05
no alc at all => alc=0
the needle doesn't move => alc=0
alc is pinned => alc=1
needle goes full scale => alc=1
alc reads 4 on a sustained word => alc=0.4
alc 40 percent on hello => alc=0.4
alc comes up to .4 when I shout => alc=0.4
alc just kisses the end of the zone => alc=0.5
eq is on => nothing
take the processor out of line => nothing
getting 80 watts out => powerW=80
swr 1.3 to 1 => swr=1.3
power meter 40 watts => powerW=40
comp meter is showing 10 dB => compressionDb=10
mic 32, alc point four => mic-gain=32 alc=0.4
next channel -42 => adjacentDb=-42
adjacent channel at -38 dB => adjacentDb=-38
analyser reads -45 => adjacentDb=-45
next channel 44 => adjacentDb=-44
move the 2400 to 2600 => n-high-centre=2600
band 3 width 5 => nothing
make band 2 narrower => n-mid-width=6
band two up two => n-mid-level=2
second band down 3 => n-mid-level=-3
the low one down 4 => n-low-level=-4
low band n width 3 => n-low-width=3
4.11 200, 4.12 -6, 4.13 3 => n-low-level=-6 n-low-width=3
4.11-4.19: 150 -6 4 1000 0 5 2400 5 5 => n-low-centre=150 n-low-level=-6 n-low-width=4 n-mid-centre=1000 n-high-level=5
4.11 to 4.19: 150 -6 4 1000 0 5 2400 5 5 => n-low-centre=150 n-low-level=-6 n-low-width=4 n-mid-centre=1000 n-high-level=5
4.11 200\\n4.12 -6\\n4.14 1000 => n-low-level=-6 n-mid-centre=1000
eq1 150 -6 4 => n-low-centre=150 n-low-level=-6 n-low-width=4
eq1: 150 Hz, -6 dB, width 4 => n-low-centre=150 n-low-level=-6 n-low-width=4
run the mic a bit hotter => mic-gain=47
cut 250 by four => n-low-centre=250 n-low-level=-4
boost 2.5k by 4 db => n-high-centre=2500 n-high-level=4
add three dB of treble => n-high-level=3
roll off the bottom end a bit => n-low-level=-2
give me two more clicks at 2400 => n-high-level=2
i think you could use about 3 more at 2400 => n-high-level=3
max out the high band => n-high-level=20
mic to maximum => mic-gain=100
low band all the way down => n-low-level=-20
2400 up three and 200 down two => n-high-level=3 n-low-level=-2
2400 is at plus 9 => n-high-level=9
leave the 1k alone => nothing
how about three more on the 2400 and two less on the 200 => n-high-level=3 n-low-level=-2
take 3 dB out of 200 => n-low-level=-3
bring the mic down from 45 to 40 => mic-gain=40
lower the mic gain by ten => mic-gain=35
up the mic 3 => mic-gain=48
plus three at twenty four hundred => n-high-level=3
minus two at two hundred => n-low-level=-2
mic thirty five => mic-gain=35
another two at 2400 => n-high-level=2
drop 200 hz two notches => n-low-level=-2
a touch more presence => n-high-level=2
lots more top => n-high-level=4
less bottom => n-low-level=-2
put the treble up => n-high-level=2
menu 2.02 25 => processor-level=25
2.02 30 => processor-level=30
2.02 to 30 => processor-level=30
low band n centre down to 150 => n-low-centre=150
comp down a bit => processor-level=18
compressor up 5 => processor-level=25
mic 50%  => mic-gain=50
proc 35 => processor-level=35
back to 30 on the mic => mic-gain=30
mic back to 30 => mic-gain=30
ease off the mic gain by 4 => mic-gain=41
mic gain 6 out of 10 => mic-gain=60
bw 2.8 => tx-filter=200–2800
passband 200 2800 => tx-filter=200–2800
use the 200 to 2800 => tx-filter=200–2800
eq on => nothing
mic eq off => mic-eq=off
increase mic gain slightly => mic-gain=47
could you go up three on your mic gain => mic-gain=48
drop the mic gain => mic-gain=44
can you add 2 at 2.4k and take 2 off at 200 => n-high-level=2 n-low-level=-2
mids down 2 => n-mid-level=-2
scoop the mids by 3 => n-mid-level=-3
eq1 150 Hz -6 dB width 4 => n-low-centre=150 n-low-level=-6 n-low-width=4
low band: centre 150, level -6, width 4 => n-low-centre=150 n-low-level=-6 n-low-width=4
low: 150 Hz / -6 dB / 4 => n-low-centre=150 n-low-level=-6 n-low-width=4
band 1 150 -6 => n-low-centre=150 n-low-level=-6
width 200-2800 => tx-filter=200–2800
eq1 -2, eq2 0, eq3 +5 => n-low-level=-2 n-high-level=5
low -3 mid 0 high +5 => n-low-level=-3 n-high-level=5
low -3, mid +1, high +5 => n-low-level=-3 n-mid-level=1 n-high-level=5
🙂 2400 +3 => n-high-level=3`,

  'fulmar-8': `
compressor in at three of ten => compressor=on
meter peaks at two thirds on the long vowel => alc=0.667
give me four more at 2.4 => eq-2400=4
2400 +4, same again on the two hundred => eq-2400=4 eq-200=4
another four on that low one => eq-100=4
two less on the 2k => eq-2400=-2
alc two thirds on the long word => alc=0.667
alc is peaking at about two thirds when I count => alc=0.667
compression in at 4 => compressor=on compression=4
put the comp in at three => compressor=on
comp on at 3 => compressor=on
four up at two point four, and four up at two hundred => eq-2400=4 eq-200=4
add four at 200 and at 2400 => eq-200=4 eq-2400=4
4 more on 200, 4 more on 2400 => eq-200=4 eq-2400=4
go down two on six hundred please => eq-600=-2
make it 5 at 2400 => eq-2400=5
2400 to plus five and 200 to plus two => eq-2400=5 eq-200=2
your 2.4 up another two => eq-2400=2
leave everything, just drop the 400 two => eq-400=-2
everything as is but 400 down 2 => eq-400=-2
low and high up two => eq-200=2 eq-2400=2
lows and highs up 2 => eq-200=2 eq-2400=2
mic gain 10 less => mic-gain=40
ten less mic gain => mic-gain=40
drop mic ten => mic-gain=40
mic to 3/4 => mic-gain=75
mic up to three quarters => mic-gain=75
alc a touch over half => alc=0.5
alc 2/3 => alc=0.667
set comp at 3 of 10 => nothing
low cut to 200 high cut to 2800 => nothing
narrow it down to 300 to 2700 => low-cut=300 high-cut=2700
filter 2.7 => high-cut=2700
highest slider all the way up => eq-3200=8
turn everything back to flat => nothing
first slider minus six => eq-100=-6
sliders: 2 1 0 -2 -1 2 5 8 => eq-100=2 eq-200=1 eq-600=-2 eq-1000=-1 eq-1600=2 eq-2400=5 eq-3200=8
bump the 2.4 and the 3.2 by two each => eq-2400=2 eq-3200=2
three more clicks, 2400 => eq-2400=3
2400, three more clicks => eq-2400=3
2400 three clicks more => eq-2400=3
up a click on 2400 => eq-2400=1
down a couple of dB at 400 => eq-400=-2
put 2 dB back in at 400 => eq-400=2
give back two at 400 => eq-400=-2
that's too much, back off two on 2400 => eq-2400=-2
2500 +3 => eq-2400=3
1,6k −5 => eq-1600=-5
bw 300-2700 => low-cut=300 high-cut=2700
31 +2 => eq-100=2
1000 flat => nothing
180 down 2 => eq-200=-2
the high one up 3 => eq-3200=3
top slider down 2 => eq-3200=-2
bottom slider +4 => eq-100=4
third slider -2 => eq-400=-2
500 is at plus 6 => eq-600=6
100: +2, 200: +1, 400: 0, 600: -2 => eq-100=2 eq-200=1 eq-600=-2
100 +2\\n200 +1\\n400 0\\n600 -2\\n1000 -1\\n1600 +2\\n2400 +5\\n3200 +8 => eq-100=2 eq-200=1 eq-600=-2 eq-1000=-1 eq-1600=2 eq-2400=5 eq-3200=8
sliders 2 1 0 -2 -1 2 5 8 => eq-100=2 eq-200=1 eq-600=-2 eq-1000=-1 eq-1600=2 eq-2400=5 eq-3200=8
eq 2 1 0 -2 -1 2 5 8 => eq-100=2 eq-200=1 eq-600=-2 eq-1000=-1 eq-1600=2 eq-2400=5 eq-3200=8
31-38: 2 1 0 -2 -1 2 5 8 => eq-100=2 eq-200=1 eq-600=-2 eq-1000=-1 eq-1600=2 eq-2400=5 eq-3200=8
31 2, 32 1, 34 -2 => eq-100=2 eq-200=1 eq-600=-2
30 off => tx-eq=off
12 on => compressor=on
13 6 => compression=6
comp 6 => compression=6
bit more top => eq-2400=2
more bass => eq-200=2
low cut 200 => nothing
high cut up to 2900 => high-cut=2900
high cut 2.9k => high-cut=2900
wide => low-cut=50 high-cut=3000
narrow => low-cut=400 high-cut=2400
all sliders to zero => nothing
everything under 300 up 2 => eq-100=2 eq-200=2
everything over 2000 max => eq-2400=8 eq-3200=8
two clicks up on the 2400 => eq-2400=2
600 and 1000 down 2, 2400 up 4 => eq-600=-2 eq-1000=-2 eq-2400=4
3 up at 1.6k and 2.4k => eq-1600=3 eq-2400=3
comp off => nothing
2.4 up 3 => eq-2400=3
ease up on the bass => eq-200=-2
lay off the bass a bit => eq-200=-2
add 3 to 2400 => eq-2400=3
add 3 to 2400 and take 2 away from 400 => eq-2400=3 eq-400=-2
three up on 1000 through 2400 => eq-1000=3 eq-1600=3 eq-2400=3
put it at minus four on the 400 => eq-400=-4
low end is too much, drop it four => eq-200=-4
give me 2 on the hundred and 3 on the two hundred => eq-100=2 eq-200=3
item thirty three minus two => eq-400=-2
how about another dB on the 3200 => eq-3200=1
2.4 is at minus 3 => eq-2400=-3
my 2.4 is flat now => nothing
4 khz up 2 => eq-3200=2
3.2k all the way up => eq-3200=8
0.4k -2 => eq-400=-2
raise 37 to 4 => eq-2400=4
drop 31 by 2 => eq-100=-2
up 2 on the bass => eq-200=2
bring the 1.6 up a couple of dB => eq-1600=2
try 400 down two, 600 down one and 2.4 up five => eq-400=-2 eq-600=-1 eq-2400=5
let's go to plus 4 on the 2400 => eq-2400=4
flat from 400 to 1600 => nothing
between 400 and 1000 down 2 => eq-400=-2 eq-600=-2 eq-1000=-2
100 and 200 flat out, rest flat => eq-100=8 eq-200=8
everything else flat => nothing
less compression => compression=2
more compression => compression=4
comp back to 3 => nothing
compression down a couple => compression=1
mic gain up 10 percent => mic-gain=60
drop your mic gain to 40 => mic-gain=40
gain 40 => mic-gain=40
a tad more mic gain => mic-gain=60
alc half => alc=0.5
alc is hitting full scale => alc=1
you are at 5 on the compression, make it 3 => nothing
2400 up 3, same again => eq-2400=6
one more click up on the 2400 => eq-2400=1
bump 2400 two more => eq-2400=2
2400 another 2 => eq-2400=2
2400 +3 1600 -2 => eq-2400=3 eq-1600=-2
2400:+3 1600:-2 => eq-2400=3 eq-1600=-2
2400=3 => eq-2400=3
2400 to -4 => eq-2400=-4
2400 at 3 => eq-2400=3
put 2400 at plus five => eq-2400=5
400 minus 3 => eq-400=-3
400 -3dB => eq-400=-3
400 -3 db => eq-400=-3
400, down 3 => eq-400=-3
down 3 on 400 => eq-400=-3
down 3 at 400 hz => eq-400=-3
cut some 400 => eq-400=-2
cut a little at 400 => eq-400=-2
give me a little more at 3k => eq-3200=2
swr is one point five => swr=1.5
swr 1.5:1 => swr=1.5
swr 1:1.5 => swr=1.5
power out 25 w => powerW=25
alc is around 40% => alc=0.4
alc 4 out of 10 => alc=0.4
pull 1k down three => eq-1000=-3
take a bit off the bottom => eq-200=-2
take the bottom end out => eq-200=-2
600 -1, 1000 -2; 1600 +1 => eq-600=-1 eq-1000=-2 eq-1600=1
2.4k +3, 3.2k +2 => eq-2400=3 eq-3200=2
set 2400 to three => eq-2400=3
set everything to zero => nothing
eq 3 up 2 => eq-400=2
band 7 plus 2 => eq-2400=2
number 7 slider up 2 => eq-2400=2
🙂 2400 +3 => eq-2400=3
2400 +99 => eq-2400=8
go up two at one k => eq-1000=2
give the two point four a couple more => eq-2400=2
I'd knock the four hundred down by three => eq-400=-3
let's have three dB more on 2400 => eq-2400=3
pop the 2400 up to 5 => eq-2400=5
see if you can get the mic gain down to about 40 => mic-gain=40
mic gain to 40 please => mic-gain=40
try the mic at forty => mic-gain=40
try your mic gain at forty five => mic-gain=45
bring your mic gain up a touch => mic-gain=60
bring the mic gain up a little bit => mic-gain=60
a hair more mic => mic-gain=60
just a touch more high end => eq-2400=2
touch more lows => eq-200=2
more lows please => eq-200=2
you need more bottom end => eq-200=2
need a bit more bass => eq-200=2
could use a little less midrange => eq-600=-2 eq-1000=-2 eq-1600=-2
cut the mids two dB => eq-600=-2 eq-1000=-2 eq-1600=-2
mids out a bit => eq-600=-2 eq-1000=-2 eq-1600=-2
lower mids down two => eq-400=-2 eq-600=-2
upper mids up one => eq-1600=1 eq-2400=1
drop 600 and 1000 by 2 => eq-600=-2 eq-1000=-2
drop both 600 and 1000 by two => eq-600=-2 eq-1000=-2
500 and 600 down one each => eq-600=-2
600 down 2 and 1000 the same => eq-600=-2 eq-1000=-2
set the compressor to 4 => compression=4
compressor to 4 out of 10 => compression=4
compression at forty percent => compression=4
compressor halfway => compression=5
comp up two clicks => compression=5
compressor off please => nothing
switch off the compressor => nothing
switch the compressor on => compressor=on
take the compressor off => nothing
take the compression out => nothing
put the compressor in => compressor=on
leave the compressor off => nothing
turn compression down to 2 => compression=2
reduce compression by one => compression=2
less compression, about 2 => compression=1
compression three => nothing
no comp => nothing
without compression => nothing
full compression => compression=10
max compression => compression=10
minimum compression => compression=0
comp max => compression=10
filter 200 to 2900 => high-cut=2900
filters at 300 and 2700 => low-cut=300 high-cut=2700
go 200 to 2.9 => high-cut=2900
widen the filter to 2.9 => high-cut=2900
open up the filter to 2.9 => high-cut=2900
set bandwidth 100 to 2900 => low-cut=100 high-cut=2900
set low cut to 100 => low-cut=100
set the low cut at 100 and high cut at 2900 => low-cut=100 high-cut=2900
low cut down to 100 => low-cut=100
high cut up to 3k => high-cut=3000
high cut 3000 => high-cut=3000
tx bandwidth wide => low-cut=50 high-cut=3000
use the widest filter => low-cut=50 high-cut=3000
narrow the filter => low-cut=400 high-cut=2400
wide open filter => low-cut=50 high-cut=3000
eq back on => nothing
turn the eq on => nothing
turn off the eq => tx-eq=off
eq off => tx-eq=off
bypass the eq => tx-eq=off
everything on the eq flat => nothing
all eq bands to zero => nothing
zero out the eq => nothing
100 hz minus 4 => eq-100=-4
minus four on one hundred => eq-100=-4
one hundred down four => eq-100=-4
a hundred down four => eq-100=-4
2.4 plus 3 => eq-2400=3
2.4 kay plus 3 => eq-2400=3
twenty-four hundred plus three => eq-2400=3
24 hundred up 3 => eq-2400=3
3200 up two notches => eq-3200=2
up three on twenty four hundred => eq-2400=3
up 3 dB @ 2400 => eq-2400=3
2400 up by 3 => eq-2400=3
raise 2400 by three db => eq-2400=3
2400 raise three => eq-2400=3
2400: raise 3 => eq-2400=3
2400 boost 3 => eq-2400=3
2400 cut 3 => eq-2400=-3
-3 @ 400 => eq-400=-3
-3 at 400 => eq-400=-3
+3 on 2400 => eq-2400=3
3 off 400 => eq-400=-3
3 off of 400 => eq-400=-3
take 400 down 3 => eq-400=-3
take 400 down to -3 => eq-400=-3
400 down to minus three => eq-400=-3
400 to minus three => eq-400=-3
400 back to zero => nothing
400 zero => nothing
400 back to flat => nothing
flat at 400 => nothing
400 flat => nothing
400 off => nothing
kill the 400 => nothing
pull 400 all the way down => eq-400=-16
pull 400 out completely => eq-400=-1
400 min => eq-400=-16
min 400 => eq-400=-16
max 2400 => eq-2400=8
2400 maxed => eq-2400=8
2400 wide open => eq-2400=8
above 2k up three => eq-2400=3 eq-3200=3
everything from 2k up plus 3 => eq-2400=3 eq-3200=3
2k and up plus three => eq-2400=3 eq-3200=3
2k and above up 3 => eq-2400=3 eq-3200=3
300 and below down 4 => eq-100=-4 eq-200=-4
everything under 300 down 4 => eq-100=-4 eq-200=-4
below 300 all off => nothing
from 400 to 1600 down 1 => eq-400=-1 eq-600=-1 eq-1000=-1 eq-1600=-1
400 through 1600 down 1 => eq-400=-1 eq-600=-1 eq-1000=-1 eq-1600=-1
400-1600 down 1 => eq-400=-1 eq-600=-1 eq-1000=-1 eq-1600=-1
400 - 1600 -1 => eq-400=-1 eq-600=-1 eq-1000=-1 eq-1600=-1
between 400 and 1.6k cut 2 => eq-400=-2 eq-600=-2 eq-1000=-2 eq-1600=-2
400 to 1.5k flat => nothing
400 to 1.6 flat => nothing
cut everything below 300 => eq-100=-2 eq-200=-2
boost everything above 2k by 3 => eq-2400=3 eq-3200=3
roll everything off below 200 => eq-100=-2 eq-200=-2
100 through 400 minus 2 => eq-100=-2 eq-200=-2 eq-400=-2
the 250 slider up 2 => eq-200=2
180 up 2 => eq-200=2
the low one up 2 => eq-100=2
the lowest one up 2 => eq-100=2
high one down 2 => eq-3200=-2
second one up 2 => eq-200=2
last slider up 4 => eq-3200=4
all the way left one up 2 => eq-100=2
alc reading 0.45 => alc=0.45
alc's at half => alc=0.5
alc about four tenths => alc=0.4
alc is 3 out of 10 => alc=0.3
alc showing sixty percent => alc=0.6
alc just under half => alc=0.5
alc quarter scale => alc=0.25
alc at 1/3 => alc=0.333
alc a third of the scale => alc=0.333
the alc is kicking up to 60 percent => alc=0.6
i'm seeing alc at .4 => alc=0.4
my alc is at 50% => alc=0.5
power is showing 90 watts => powerW=90
putting out 90 watts => powerW=90
i see 80 watts peak => powerW=80
i have 80 watts => powerW=80
swr 1.2 => swr=1.2
swr is 1.2 to 1 => swr=1.2
comp meter 6 => compressionDb=6
compression meter reads 6 db => compressionDb=6
2400 +3, one more => eq-2400=4
2400 up 2 then a bit more => eq-2400=4
2400 up 2, and another 2 => eq-2400=4
mic 45 and comp 3 and 2400 up 2 => mic-gain=45 eq-2400=2
mic gain 45 comp 3 2400 up 2 400 down 1 => mic-gain=45 eq-2400=2 eq-400=-1
mic:45 comp:3 => mic-gain=45
gain=45 => mic-gain=45
mic - 5 => mic-gain=45
mic -5 => mic-gain=45
mic +5 => mic-gain=55
MIC GAIN UP 5! => mic-gain=55
Mic gain, up five. => mic-gain=55
ok so drop your mic gain five => mic-gain=45
right, 2400, three up => eq-2400=3
and on the 2400 three up => eq-2400=3
for the bass, two down => eq-200=-2
on the low end take off two => eq-200=-2
treble plus two => eq-2400=2
highs +2 lows -2 => eq-2400=2 eq-200=-2`,

  'knot-5': `
compressor in please => speech=low
a touch of compression => speech=low
both knobs up one => bass=1 treble=1
I'd go down another couple on the bass => bass=-2
tone controls flat please => nothing
keep the gain at 4 => mic-gain=4
treble full up => treble=6
bring the carrier down 200 => carrier-offset=-200
move the bfo 100 lower => carrier-offset=-100
treble +3 => treble=3
300 -2 => bass=-2
comp high => speech=high
carrier 100 => carrier-offset=100
comp up one => speech=low
2 high => speech=high
bass down two => bass=-2
6 -2 => bass=-2
7 +3 => treble=3
highs up 2 => treble=2
bring the bass back up 2 => bass=2
carrier up 100 => carrier-offset=100
bfo down 100 => carrier-offset=-100
offset to minus 100 => carrier-offset=-100
treble to plus 4 => treble=4
more highs and less lows => treble=2 bass=-2
mic 6 => mic-gain=6
1 6 => mic-gain=6`,

  'dunlin-fm': `
mic high => mic-level=high
fm width narrow => width=narrow
wide => nothing
narrow => width=narrow
go to narrow => width=narrow
deviation wide => nothing
mic up one => mic-level=high`,
};

describe.each(Object.entries(SAID))('said to the operator of %s', (name, text) => {
  const rig = parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8')));
  const [mode] = rig.modes;
  const card = { mode, values: { ...factoryCard(rig, mode).values, 'mic-eq': 'on', 'tx-eq': 'on' } };
  const lines = text.trim().split('\n');
  it.each(lines.map((line) => line.split(' => ')))('%s', (words, wanted) => {
    const line = readDialLine(words.replaceAll('\\n', '\n'), rig, card);
    if (line.kind !== 'do') throw new Error(`${line.kind}: ${'text' in line ? line.text : ''}`);
    const set = line.moves.map(({ dial, to }) => `${dial.id}=${to}`);
    const read = Object.entries(line.reading ?? {}).map(([meter, value]) => `${meter}=${Number(value.toFixed(3))}`);
    expect([...set, ...read].join(' ') || 'nothing').toBe(wanted);
  });
});
