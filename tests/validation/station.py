"""Stations by equations of their own, to try the advice on: nothing of the program's transmitter is used here.

usage: station.py VOICES OUT    VOICES holds VOICE-N.wav (overs.py); recordings are written to OUT
Reads one JSON object a line and answers with one: {"begin": {rigs, targets, seed, scatterDb, school, compression}}, {"over": card, "text": n},
{"truth": card}, {"mend": true}. The ranges of what a radio hides are common practice (docs/methods/next.md).
"""
import glob
import json
import sys

import numpy as np
import scipy.fft as fft
import scipy.io.wavfile as wavfile
import scipy.signal as sig

RATE = 24000
# 8.2 s: lengths that transforms like.
LENGTH = 3 * 2 ** 16
THIRDS = 1000 * 10 ** (np.arange(-10, 7) / 10)
SCHOOLS = {'cautious': (0.25, 0.5), '30-50': (0.3, 0.5), 'full': (0.5, 0.67), 'ceiling': (0.85, 1)}
# Peaks (95 %) of overs of 15 s, which is what is asked for, level as recorded: standard deviations of voices f, b, e, c and d of
# overs.py, 60 overs each. (Overs of 8 s: 0.4, 0.8, 0.8, 1.1 and 1.5.)
SCATTERS = [0.4, 0.65, 0.8, 0.9, 1.4]
SHARES = {'none': 0, 'token': 0.3, 'weak-mic': 0.62, 'handbook': 0.7}
# Decibels on the compression meter.
HANDBOOK = (10, 20)
MICROPHONES = [[(100, 0), (4000, 0)], [(100, 0), (900, 0), (1600, -4), (3000, -9), (4000, -12)],
               [(100, 9), (250, 5), (600, 0), (4000, 0)], [(100, -9), (500, -1), (1000, 0), (3000, 8), (4000, 8)],
               [(100, -12), (300, 0), (1000, 3), (2500, 0), (4000, -9)]]


def db(power):
    return 10 * np.log10(np.maximum(power, 1e-20))


def curve(points, hz):
    return np.interp(np.log(np.maximum(hz, 1)), np.log([p[0] for p in points]), [p[1] for p in points])


def filtered(x, response_db):
    """response_db: function of frequency; no delay"""
    hz = np.fft.rfftfreq(len(x), 1 / RATE)
    return fft.irfft(fft.rfft(x) * 10 ** (response_db(hz) / 20), len(x))


def level_frames(x, seconds=0.01):
    n = int(seconds * RATE)
    frames = np.abs(x[:len(x) // n * n].reshape(-1, n)) ** 2
    return db(frames.mean(axis=1))


def fitting(x):
    """one length, and one loudness of its peaks: an operator keeps both"""
    x = np.pad(x[:LENGTH], (0, max(0, LENGTH - len(x))))
    return x * 10 ** ((-20 - peak_level(x)) / 20)


def peak_level(x):
    """what a peak-holding meter follows: the loud hundredths of a second of talk"""
    frames = level_frames(x)
    return np.percentile(frames[frames > frames.max() - 25], 95)


class Radio:
    """How the dials of a profile really act."""

    def __init__(self, rig, random):
        self.rig, self.dials = rig, {dial['id']: dial for dial in rig['dials']}
        self.click = random.uniform(0.75, 1.2)
        self.is_q = random.random() < 0.5
        self.edge_error = random.normal(0, 40, 2)
        self.most_compression = random.uniform(14, 26)
        self.makeup = random.uniform(0, 4)
        fine = len(self.positions(self.gain_dial())) > 12
        self.gain_span = random.uniform(28, 48) if fine else random.uniform(12, 20)
        self.bend = random.uniform(0.8, 1.25)
        self.dead_equalizer = False
        self.limiter = None

    def gain_dial(self):
        return next(d for d in self.rig['dials'] if d.get('role') == 'mic-gain' and 'usb' in d.get('modes', ['usb']))

    def positions(self, dial):
        scale = dial['scale']
        if scale['kind'] == 'steps':
            return [scale['min'] + k * scale['step'] for k in range(round((scale['max'] - scale['min']) / scale['step']) + 1)]
        return scale['options'] if scale['kind'] == 'options' else scale['values']

    def value(self, card, name):
        return card.get(name, self.dials[name].get('factory', self.dials[name].get('rest')))

    def is_live(self, card, name):
        dial = self.dials[name]
        if 'usb' not in dial.get('modes', ['usb']):
            return False
        return all(self.is_live(card, need['dial']) and self.value(card, need['dial']) in need['is'] for need in dial.get('needs', []))

    def share(self, card, dial):
        all_of = self.positions(dial)
        return all_of.index(self.value(card, dial['id'])) / (len(all_of) - 1)

    def compression(self, card):
        dial = next((d for d in self.rig['dials'] if d.get('role') == 'compression'), None)
        return 0 if dial is None or not self.is_live(card, dial['id']) else self.share(card, dial)

    def passband(self, card):
        band = next(b for b in self.rig['passbands'] if 'usb' in b['modes'])
        if band['kind'] == 'fixed':
            # A carrier that is moved slides the voice along the filter.
            offset = next((self.value(card, d['id']) for d in self.rig['dials'] if d.get('role') == 'carrier-offset'), 0)
            return np.maximum(np.array(band['edges'], float) + offset, 20)
        if band['kind'] == 'edges':
            return np.array([self.value(card, band['low']), self.value(card, band['high'])], float)
        return np.array(next(edge[1:] for edge in band['edges'] if edge[0] == self.value(card, band['dial'])), float)

    def bands(self, card):
        """live bands: (centres, widths, level dial, kind), each a list of (dial id or None, values)"""
        equalizer = self.rig['equalizer']
        found = []
        number = lambda part: (part, self.positions(self.dials[part])) if isinstance(part, str) else (None, [part])
        if equalizer['kind'] == 'parametric':
            for bank in equalizer['banks']:
                for band in bank['bands']:
                    if self.is_live(card, band['level']):
                        found.append((number(band['centre']), number(band.get('width', 1)), band['level'], 'bell'))
        elif equalizer['kind'] == 'graphic':
            for band in equalizer['bands']:
                if self.is_live(card, band['level']):
                    found.append(((None, [band['hz']]), (None, [equalizer['octaves']]), band['level'], 'bump'))
        elif equalizer['kind'] == 'tone':
            for name in ('bass', 'treble'):
                if self.is_live(card, equalizer[name]['level']):
                    found.append(((None, [equalizer[name]['hz']]), (None, [1]), equalizer[name]['level'], name))
        return found

    def band_db(self, kind, centre, width, level, hz):
        level, ratio = level * self.click, np.maximum(hz, 1) / centre
        if kind == 'bass':
            return level / (1 + ratio ** 2)
        if kind == 'treble':
            return level / (1 + ratio ** -2)
        if kind == 'bump':
            return level * np.exp(-np.log(2) * (2 * np.log2(ratio) / width) ** 2)
        q = width if self.is_q else np.sqrt(2.0 ** width) / (2.0 ** width - 1)
        # A resonator beside the straight path: not symmetric between boost and cut.
        resonance = 1 / (1 + 1j * q * (ratio - 1 / ratio))
        return db(np.abs(1 + (10 ** (level / 20) - 1) * resonance) ** 2)

    def equalizer_db(self, card, hz):
        total = np.zeros_like(hz, dtype=float)
        if self.dead_equalizer:
            return total
        for (centre, centres), (width, widths), level, kind in self.bands(card):
            total += self.band_db(kind, self.value(card, centre) if centre else centres[0],
                                  self.value(card, width) if width else widths[0], self.value(card, level), hz)
        return total

    def edges_db(self, card, hz):
        low, high = self.passband(card) + self.edge_error
        return -db(1 + (np.maximum(low, 20) / np.maximum(hz, 1)) ** 16) - db(1 + (hz / high) ** 60)

    def gain_db(self, card):
        return self.gain_span * self.share(card, self.gain_dial()) ** self.bend


class Station:
    def __init__(self, voices, out, seed, rigs, targets, scatterDb=None, school=None, compression=None):
        random = self.random = np.random.default_rng(seed)
        self.out, self.seed, self.count, self.peaks = out, seed, 0, {}
        self.scatter_db = np.random.default_rng(seed + 11).choice(SCATTERS) if scatterDb is None else scatterDb
        names = sorted({path.split('/')[-1][0] for path in glob.glob(f'{voices}/*-0.wav')})
        self.voice = names[int(random.integers(len(names)))]
        self.texts = [fitting(sig.resample_poly(wavfile.read(path)[1] / 32768, 3, 2)) for path in sorted(glob.glob(f'{voices}/{self.voice}-*.wav'))]
        noise = filtered(np.random.default_rng(seed + 7).normal(0, 1, LENGTH), lambda hz: -3 * np.log2(np.maximum(hz, 50) / 1000))
        self.noise = noise / np.sqrt(np.mean(noise ** 2))
        self.radio = Radio(rigs[seed % len(rigs)], random)
        self.evidence = ['iq', 'audio', 'weak'][seed // len(rigs) % 3]
        self.purpose = list(targets)[int(random.integers(len(targets)))]
        self.target = curve(targets[self.purpose], THIRDS)
        drawn = list(SCHOOLS)[int(random.integers(3))]
        self.zone = SCHOOLS[school or drawn]
        has_compressor = any(d.get('role') == 'compression' for d in self.radio.rig['dials'])
        drawn = list(SHARES)[int(random.integers(3))] if has_compressor else 'none'
        self.wish = compression if compression and has_compressor else drawn
        self.microphone = MICROPHONES[int(random.integers(len(MICROPHONES)))]
        self.room_snr = random.uniform(25, 45)
        self.hum = random.uniform(-32, -24) if random.random() < 0.1 else None
        self.meter_span = random.uniform(7, 14)
        self.loudness = random.uniform(-3, 3)
        self.card = self.left_card()
        if self.radio.rig['equalizer']['kind'] != 'none' and random.random() < 0.12:
            self.radio.dead_equalizer = True
        good = self.good_card()
        share = random.uniform(0.3, 0.75)
        gain = self.radio.gain_dial()
        positions = self.radio.positions(gain)
        # The zone's middle is somewhere on the dial.
        self.threshold = 0
        middle = {**good, gain['id']: positions[round(share * (len(positions) - 1))]}
        self.threshold = self.peak(middle) - self.meter_span * sum(self.zone) / 2
        self.knee, self.smooth = random.uniform(-0.5, 3), random.uniform(2, 4)
        # With I/Q the knee may lie inside the zone; where it can't be seen, the whole zone is clean.
        lift = 0 if self.evidence == 'iq' else self.meter_span * (self.zone[1] - sum(self.zone) / 2) + 1
        heard = [self.before_alc(self.talk(n) * 10 ** (lift / 20), middle)[0] for n in range(len(self.texts))]
        while self.knee < 15 and max(max(self.adjacent(self.amplified(x, peak_level(x) - self.threshold))) for x in heard) > (-39 if self.evidence == 'iq' else -42):
            self.knee += 0.5

    def left_card(self):
        card, random = {}, self.random
        for dial in self.radio.rig['dials']:
            positions = self.radio.positions(dial)
            if dial.get('role') == 'mic-gain':
                card[dial['id']] = positions[int(random.uniform(0.15, 0.95) * (len(positions) - 1))]
            elif dial['stage'] == 'equalizer' and dial.get('unit') == 'dB' and random.random() < 0.4:
                card[dial['id']] = positions[int(random.uniform(0.2, 0.9) * (len(positions) - 1))]
            elif dial.get('role') in ('compression', 'processor') and random.random() < 0.3:
                card[dial['id']] = positions[int(random.integers(len(positions)))]
        return card

    def good_card(self):
        """the card with switches and compression as they should be"""
        card = {dial['id']: self.radio.value(self.card, dial['id']) for dial in self.radio.rig['dials']}
        for dial in self.radio.rig['dials']:
            if dial['stage'] == 'equalizer' and dial['scale']['kind'] == 'options' and 'on' in dial['scale']['options']:
                card[dial['id']] = 'on'
            if dial.get('role') == 'processor':
                card[dial['id']] = 'off' if self.wish == 'none' else 'on'
            if dial.get('role') == 'compression':
                positions = self.radio.positions(dial)
                card[dial['id']] = positions[min(len(positions) - 1, int(np.ceil(SHARES[self.wish] * (len(positions) - 1) - 1e-9)))]
        return card

    def talk(self, text):
        return self.texts[text % len(self.texts)] * 10 ** (self.loudness / 20)

    def before_alc(self, talk, card, gain=True):
        radio = self.radio
        x = talk
        loudness = np.sqrt(np.mean(x ** 2))
        x = x + self.noise * loudness * 10 ** (-self.room_snr / 20)
        if self.hum is not None:
            t = np.arange(len(x)) / RATE
            x = x + loudness * 10 ** (self.hum / 20) * sum(np.sin(2 * np.pi * 50 * k * t + k) / k for k in range(1, 9))
        x = filtered(x, lambda hz: curve(self.microphone, hz) + radio.equalizer_db(card, hz) + radio.edges_db(card, hz))
        share = radio.compression(card)
        reduction = 0
        if share > 0:
            envelope = np.sqrt(np.maximum(sig.lfilter([1 - 0.996], [1, -0.996], x ** 2), 1e-12))
            over = share * radio.most_compression + 20 * np.log10(envelope / np.percentile(envelope, 98))
            held = np.maximum(over, 0) * 0.85
            x = x * 10 ** ((share * radio.makeup - held + share * radio.most_compression * 0.85) / 20)
            reduction = np.percentile(held, 95)
        level = radio.gain_db(card) if gain else 0
        x = x * 10 ** (level / 20)
        if radio.limiter is not None:
            ceiling = 10 ** ((self.threshold + radio.limiter) / 20)
            x = x / (1 + (np.abs(x) / (2 * ceiling)) ** 4) ** 0.25
        return x, reduction

    def peak(self, card):
        key = json.dumps(card, sort_keys=True) + str(self.radio.dead_equalizer)
        if key not in self.peaks:
            self.peaks[key] = self.peak_of(card)
        return self.peaks[key]

    def peak_of(self, card):
        return float(np.mean([peak_level(self.before_alc(self.talk(n), card)[0]) for n in range(len(self.texts))]))

    def drive(self, level):
        """dB: what the ALC lets through, and what is beyond its range"""
        return min(level, 0) + 0.1 * np.clip(level, 0, self.meter_span) + max(level - self.meter_span, 0)

    def amplified(self, x, level):
        """level: of the peaks over the ALC's threshold -> radio signal as I/Q"""
        z = sig.hilbert(x)
        z = z / np.percentile(np.abs(z), 99) * 10 ** (self.drive(level) / 20)
        knee = 10 ** (self.knee / 20)
        return z / (1 + (np.abs(z) / knee) ** (2 * self.smooth)) ** (1 / (2 * self.smooth))

    def adjacent(self, z):
        hz, power = sig.welch(z, RATE, 'hann', 2048, return_onesided=False)
        part = lambda low, high: power[(hz >= low) & (hz <= high)].sum()
        return [float(db(part(low, high) / part(100, 3000))) for low, high in ((3300, 6300), (-6300, -3300))]

    def thirds(self, sent, card):
        """third octaves of what was sent, over all texts: density of what lies inside the passband"""
        total = 0
        for x in sent:
            frames = x[:len(x) // 4096 * 4096].reshape(-1, 4096) * np.hanning(4096)
            power = np.abs(np.fft.rfft(frames, axis=1)) ** 2
            loud = db(power.sum(axis=1))
            total = total + power[loud > loud.max() - 25].mean(axis=0)
        hz = np.fft.rfftfreq(4096, 1 / RATE)
        low, high = self.radio.passband(card)
        inside = lambda c: (hz >= max(low, c / 10 ** 0.05)) & (hz < min(high, c * 10 ** 0.05))
        return db(np.array([total[inside(c)].mean() * c if inside(c).any() else 1e-9 for c in THIRDS]))

    def tone(self, levels, card):
        low, high = self.radio.passband(card)
        # At least half of a third octave.
        inside = (THIRDS > low) & (THIRDS < high)
        off = (levels - self.target)[..., inside]
        return np.sqrt(np.mean((off - off.mean(axis=-1, keepdims=True)) ** 2, axis=-1))

    def best_tone(self, heard, card):
        """the least error that any positions of the live equalizer dials give"""
        radio = self.radio
        voice = heard - radio.equalizer_db(card, THIRDS)
        if radio.dead_equalizer:
            return float(self.tone(voice, card))
        tables = []
        for (_, centres), (_, widths), level, kind in radio.bands(card):
            levels = radio.positions(radio.dials[level])
            tables.append(np.array([radio.band_db(kind, c, w, v, THIRDS) for c in centres for w in widths for v in levels]))
        best, dice = np.inf, np.random.default_rng(self.seed)
        for start in range(3):
            chosen = [table[int(dice.integers(len(table)))] if start else np.zeros(len(THIRDS)) for table in tables]
            for _ in range(12):
                for b, table in enumerate(tables):
                    rest = voice + sum(chosen[:b]) + sum(chosen[b + 1:])
                    chosen[b] = table[np.argmin(self.tone(rest + table, card))]
            best = min(best, float(self.tone(voice + sum(chosen), card)))
        return best

    def over(self, card, text):
        self.count += 1
        # From over to over peaks differ by so much, what is said included.
        level = self.peak(card) - self.threshold + self.random.normal(0, self.scatter_db)
        x, reduction = self.before_alc(self.talk(text), card)
        z = self.amplified(x, level)
        seen = np.clip(level / self.meter_span + self.random.normal(0, 0.02), 0, 1)
        path = f'{self.out}/{self.seed}-{self.count}'
        edges = (150, 3400) if self.evidence != 'weak' else (200, 2900)
        audio = filtered(z.real, lambda hz: -db(1 + (edges[0] / np.maximum(hz, 1)) ** 12) - db(1 + (hz / edges[1]) ** 40))
        noise = filtered(self.random.normal(0, 1, len(audio)), lambda hz: -db(1 + (hz / edges[1]) ** 40))
        snr = self.random.uniform(18, 24) if self.evidence == 'weak' else 45
        audio = audio / np.sqrt(np.mean(audio ** 2)) + noise * 10 ** (-snr / 20)
        wavfile.write(path + '.wav', RATE, np.round(audio / np.abs(audio).max() * 16000).astype(np.int16))
        files = {'voice': path + '.wav'}
        if self.evidence == 'iq':
            clean = z / np.abs(z).max() * 0.5
            clean = clean + 10 ** (-75 / 20) * (self.random.normal(0, 1, len(z)) + 1j * self.random.normal(0, 1, len(z)))
            wavfile.write(path + '-iq.wav', RATE, np.round(np.stack([clean.real, clean.imag], 1) * 32767).astype(np.int16))
            files['ssb'] = path + '-iq.wav'
        return {'alc': round(20 * float(seen)) / 20, 'compressionDb': round(float(reduction)), 'files': files, 'passbandHz': edges}

    def truth(self, card):
        level = self.peak(card) - self.threshold
        alc = level / self.meter_span
        before = [self.before_alc(self.talk(n), card) for n in range(len(self.texts))]
        sent = [self.amplified(x, level) for x, _ in before]
        worst = float(np.median([max(self.adjacent(z)) for z in sent]))
        heard = self.thirds([z.real for z in sent], card)
        share = self.radio.compression(card)
        dial = next((d for d in self.radio.rig['dials'] if d.get('role') == 'compression'), None)
        names_only = dial is not None and dial['scale']['kind'] == 'options'
        low, high = {'none': (0, 0), 'token': (0.2, 0.4), 'weak-mic': (0.6, 0.65)}.get(self.wish, (0, 1))
        if names_only and self.wish == 'token':
            low = high = 1 / (len(self.radio.positions(dial)) - 1)
        if names_only and self.wish == 'weak-mic':
            low, high = 0.01, 1
        tone, best = float(self.tone(heard, card)), self.best_tone(heard, card)
        reduction = float(np.mean([dB for _, dB in before]))
        is_compressed = HANDBOOK[0] - 0.5 <= reduction <= HANDBOOK[1] + 0.5 if self.wish == 'handbook' else low - 0.051 <= share <= high + 0.051
        # Where nobody can see the next channel, below the amplifier's knee is clean as well.
        is_clean = worst <= -36 or self.evidence != 'iq' and self.drive(level) <= self.knee
        state = {'isAlcInZone': bool(self.zone[0] - 0.025 <= min(alc, 1) <= self.zone[1] + 0.025), 'isDriveClean': bool(is_clean),
                 'isCompressionRight': bool(is_compressed), 'isToneRight': tone <= best + 1}
        return {'alc': alc, 'adjacentDb': worst, 'compressionDb': reduction, 'toneErrorDb': tone, 'bestToneErrorDb': best, **state,
                'isReached': all(state.values())}

    def told(self):
        return {'card': self.card, 'purpose': self.purpose, 'evidence': self.evidence, 'rig': self.radio.rig['name'], 'voice': self.voice,
                'school': {'alcZone': self.zone, 'compression': self.wish}, 'isDead': self.radio.dead_equalizer,
                'hidden': {'click': self.radio.click, 'isQ': self.radio.is_q, 'gainSpan': self.radio.gain_span, 'meterSpan': self.meter_span,
                           'edges': list(self.radio.edge_error), 'knee': self.knee, 'mic': MICROPHONES.index(self.microphone), 'scatter': float(self.scatter_db)}}


station = None
for line in sys.stdin:
    order = json.loads(line)
    if 'begin' in order:
        station = Station(sys.argv[1], sys.argv[2], **order['begin'])
        answer = station.told()
    elif 'over' in order:
        answer = station.over(order['over'], order['text'])
    elif 'truth' in order:
        answer = station.truth(order['truth'])
    else:
        station.radio.dead_equalizer = False
        answer = {}
    print(json.dumps(answer), flush=True)
