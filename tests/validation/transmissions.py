"""Transmissions of known truth, made with SciPy by equations of their own (none of the product's code).

usage: transmissions.py FOLDER [PART OF [DRAW]]     writes recordings and FOLDER/manifest.json; PART OF: one part (0 ..) of so many; DRAW: another draw of stretches of voice, rates, noise levels and offsets
"""
import json
import sys
import zlib

import numpy as np
import scipy.io.wavfile as wavfile
import scipy.signal as sig

from voices import RECORDED, SOURCES, voice

SECONDS = 8


def db(x):
    return 10 ** (x / 20)


DRAW = sys.argv[4] if len(sys.argv) > 4 else '0'


def seed_of(text):
    return np.random.default_rng(zlib.crc32((text + DRAW).encode()))


def band(x, rate, low, high, slope=150):
    taps = int(3.3 * rate / slope) | 1
    return sig.fftconvolve(x, sig.firwin(taps, [low, min(high, 0.48 * rate)], pass_zero=False, fs=rate), 'same')


def shelf(x, rate, hz, gain, high=True, q=0.71):
    """Audio EQ Cookbook shelf."""
    a, w = 10 ** (gain / 40), 2 * np.pi * hz / rate
    alpha, c = np.sin(w) / 2 / q, np.cos(w)
    s = 1 if high else -1
    b0 = a * ((a + 1) + s * (a - 1) * c + 2 * np.sqrt(a) * alpha)
    b1 = -2 * s * a * ((a - 1) + s * (a + 1) * c)
    b2 = a * ((a + 1) + s * (a - 1) * c - 2 * np.sqrt(a) * alpha)
    a0 = (a + 1) - s * (a - 1) * c + 2 * np.sqrt(a) * alpha
    a1 = 2 * s * ((a - 1) - s * (a + 1) * c)
    a2 = (a + 1) - s * (a - 1) * c - 2 * np.sqrt(a) * alpha
    return sig.lfilter(np.array([b0, b1, b2]) / a0, np.array([a0, a1, a2]) / a0, x)


def bell(x, rate, hz, gain, q=1.0):
    a, w = 10 ** (gain / 40), 2 * np.pi * hz / rate
    alpha = np.sin(w) / 2 / q
    return sig.lfilter(np.array([1 + alpha * a, -2 * np.cos(w), 1 - alpha * a]) / (1 + alpha / a),
                       np.array([1, -2 * np.cos(w) / (1 + alpha / a), (1 - alpha / a) / (1 + alpha / a)]), x)


MICS = {'flat': lambda x, r: x, 'dull': lambda x, r: shelf(x, r, 1500, -6), 'bright': lambda x, r: shelf(x, r, 1500, 6)}


def compressed(z, amount_db):
    """A fast envelope compressor on the analytic signal: evens levels out without bending the waveform much."""
    if amount_db == 0:
        return z
    e = np.abs(z)
    smooth = np.maximum(sig.lfilter([0.004], [1, -0.996], e), 1e-9)
    gain = np.minimum(1, (np.percentile(smooth, 99) * db(-amount_db) / smooth) ** 0.7)
    return z * gain


def rapp(z, over_db, p=2.0):
    """Rapp 1991; the 99.9th percentile of the envelope stands `over_db` over saturation."""
    e = np.abs(z)
    r = e / np.percentile(e, 99.9) * db(over_db)
    return z * (1 + r ** (2 * p)) ** (-1 / (2 * p))


def keyed(z, rate, seed, pauses=(1.0, 0.8)):
    pad = lambda s: np.zeros(int(s * rate))
    z = z.copy()
    ramp = int(0.005 * rate)
    z[:ramp] *= np.linspace(0, 1, ramp)
    z[-ramp:] *= np.linspace(1, 0, ramp)
    return np.concatenate([pad(pauses[0]), z, pad(pauses[1])])


def on_air(z, rate, offset, snr_db, rng, level_db=-12):
    """At an offset from the file's centre, in noise `snr_db` under the keyed mean in 25 kHz, as int16 I/Q."""
    live = np.abs(z) > 0
    power = np.mean(np.abs(z[live]) ** 2)
    z = z * np.exp(2j * np.pi * offset * np.arange(len(z)) / rate)
    sigma = np.sqrt(power * db(-snr_db) ** 2 * rate / 25000 / 2)
    z = z + sigma * (rng.standard_normal(len(z)) + 1j * rng.standard_normal(len(z)))
    peak = np.max(np.abs(np.r_[z.real, z.imag]))
    return z / peak * db(level_db)


def ssb(x, rate, low=300, high=2700, mic='flat', compression=0, over_db=None, opposite_db=None, carrier_pep_db=None, p=2.0):
    z = sig.hilbert(band(MICS[mic](x, rate), rate, low, high))
    z = compressed(z, compression)
    if compression:
        z = sig.hilbert(band(z.real, rate, low, high))
    z = z / np.percentile(np.abs(z), 99.9)
    if opposite_db is not None:
        z = z + db(opposite_db) * np.conj(z)
    if carrier_pep_db is not None:
        z = z + db(carrier_pep_db)
    return z if over_db is None else rapp(z, over_db, p)


def am(x, rate, depth, cut=True):
    x = band(x, rate, 100, 4500)
    x = np.clip(x, -np.percentile(np.abs(x), 99.7), np.percentile(np.abs(x), 99.7))
    x = band(x, rate, 80, 4600)
    e = 1 + depth * x / -np.min(x)
    return (np.maximum(0, e) if cut else e).astype(complex)


def fm(x, rate, peak_hz, ctcss=None):
    x = band(np.diff(x, prepend=0), rate, 300, 3000)
    limit = np.percentile(np.abs(x), 99)
    x = band(np.clip(x, -limit, limit), rate, 250, 3100)
    f = peak_hz * x / np.max(np.abs(x))
    if ctcss:
        f = f * (1 - 500 / peak_hz) + 500 * np.sin(2 * np.pi * ctcss * np.arange(len(x)) / rate)
    return np.exp(2j * np.pi * np.cumsum(f) / rate)


def receiver_noise(x, rate, snr_db, rng, low=250, high=3100):
    noise = band(rng.standard_normal(len(x)), rate, low, high)
    level = np.sqrt(np.mean(x[np.abs(x) > 0.02 * np.max(np.abs(x))] ** 2))
    return x + noise / np.std(noise) * level * db(-snr_db)


PASSBANDS = [(400, 2600), (300, 2700), (200, 2800), (100, 2900), (100, 3000)]


def plan():
    """Every recording as (name, kind, fault or None, aliases, function of rate -> signal, rate, options)."""
    rows = []

    def add(name, kind, fault, make, aliases=(), truth=None):
        rows.append((name, kind, fault, [fault, *aliases] if fault else [], make, truth or {}))

    for k, v in enumerate(SOURCES):
        for mic in MICS:
            add(f'{v}-ssb-clean-{mic}', 'ssb', None, lambda x, r, m=mic: ssb(x, r, *PASSBANDS[k % 5], mic=m))
            add(f'{v}-ssb-over9-{mic}', 'ssb', 'overdrive', lambda x, r, m=mic: ssb(x, r, *PASSBANDS[(k + 1) % 5], mic=m, over_db=9), ('splatter',))
        add(f'{v}-ssb-compressed', 'ssb', None, lambda x, r: ssb(x, r, *PASSBANDS[(k + 2) % 5], compression=12))
        add(f'{v}-ssb-real-amp', 'ssb', None, lambda x, r: ssb(x, r, *PASSBANDS[(k + 3) % 5], over_db=-7, compression=6))
        add(f'{v}-ssb-over6-comp', 'ssb', 'overdrive', lambda x, r: ssb(x, r, *PASSBANDS[(k + 4) % 5], over_db=8, compression=10), ('splatter',))
        add(f'{v}-ssb-hard', 'ssb', 'overdrive', lambda x, r: ssb(x, r, *PASSBANDS[(k + 4) % 5], over_db=9, p=6), ('splatter',))
        add(f'{v}-ssb-opposite', 'ssb', 'opposite-sideband', lambda x, r: ssb(x, r, *PASSBANDS[k % 5], opposite_db=-23), truth={'oppositeSidebandDb': -23})
        add(f'{v}-ssb-carrier', 'ssb', 'carrier-leak', lambda x, r: ssb(x, r, *PASSBANDS[(k + 1) % 5], carrier_pep_db=-28), truth={'carrierPepDb': -28})
        for depth in (0.8, 0.92):
            add(f'{v}-am-{depth}', 'am', None, lambda x, r, d=depth: am(x, r, d), truth={'modulationDepth.negative': depth})
        add(f'{v}-am-over', 'am', 'over-modulated', lambda x, r: am(x, r, 1.4), ('wide', 'splatter'))
        add(f'{v}-am-under', 'am', 'under-modulated', lambda x, r: am(x, r, 0.25), truth={'modulationDepth.negative': 0.25})
        for dev in (4700, 2400, 4200):
            add(f'{v}-fm-{dev}', 'fm', None, lambda x, r, d=dev: fm(x, r, d, 88.5 if d == 4200 else None), truth={'peakDeviationHz': dev} if dev != 4200 else {'ctcssHz': 88.5, 'voicePeakDeviationHz': 3700})
        add(f'{v}-fm-over', 'fm', 'over-deviation', lambda x, r: fm(x, r, 7000), truth={'peakDeviationHz': 7000})
        add(f'{v}-fm-low', 'fm', 'narrow-deviation', lambda x, r: fm(x, r, 1100), truth={'peakDeviationHz': 1100})
        for low, high in PASSBANDS:
            add(f'{v}-voice-{low}-{high}', 'voice', None, lambda x, r, l=low, h=high: band(x, r, l, h))
        add(f'{v}-voice-muffled', 'voice', 'muffled', lambda x, r: band(shelf(x, r, 1200, -14), r, *PASSBANDS[k % 5]))
        add(f'{v}-voice-muffled-2', 'voice', 'muffled', lambda x, r: band(shelf(x, r, 1200, -14), r, *PASSBANDS[(k + 2) % 5]))
        add(f'{v}-voice-boomy', 'voice', 'boomy', lambda x, r: band(bell(x, r, 220, 14), r, *PASSBANDS[3 + k % 2]))
        add(f'{v}-voice-boomy-2', 'voice', 'boomy', lambda x, r: band(bell(x, r, 220, 14), r, *PASSBANDS[2]))
        add(f'{v}-voice-thin', 'voice', 'thin', lambda x, r: band(shelf(x, r, 800, -15, high=False), r, *PASSBANDS[k % 5]), ('harsh',))
        add(f'{v}-voice-harsh', 'voice', 'harsh', lambda x, r: band(bell(x, r, 2400, 15), r, *PASSBANDS[k % 5]), ('thin',))
        for mains in (50, 60):
            add(f'{v}-voice-hum{mains}', 'voice', 'hum', lambda x, r, m=mains: band(x, r, *PASSBANDS[k % 5]) + hum(len(x), r, m, -27))
        add(f'{v}-voice-tone', 'voice', None, lambda x, r: band(x, r, 400, 2600) + 0.1 * db(-33) * np.sqrt(2) * np.sin(2 * np.pi * 540 * np.arange(len(x)) / r))
        add(f'{v}-voice-noisy', 'voice', 'room-noise', lambda x, r: band(room(x, r, 9), r, *PASSBANDS[k % 5]))
        add(f'{v}-voice-clipped', 'voice', 'clipping', lambda x, r: np.clip(14 * band(x, r, *PASSBANDS[k % 5]), -1, 1), ('flat-tops',))
        add(f'{v}-voice-flat-tops', 'voice', 'flat-tops', lambda x, r: np.clip(band(x, r, *PASSBANDS[k % 5]), -0.2, 0.2), ('clipping',))
    return rows


def hum(length, rate, mains, level_db):
    t = np.arange(length) / rate
    parts = {1: 0, 2: -8, 3: -4}
    total = np.sqrt(sum(db(x) ** 2 / 2 for x in parts.values()))
    return 0.1 * db(level_db) / total * sum(db(x) * np.sin(2 * np.pi * n * mains * t + n) for n, x in parts.items())


def room(x, rate, snr_db):
    noise = sig.lfilter([1], [1, -0.9], np.random.default_rng(3).standard_normal(len(x)))
    return x + noise / np.std(noise) * 0.1 * db(-snr_db)


RATES = {'ssb': [48000, 96000, 24000, 192000], 'am': [48000, 96000, 192000, 24000], 'fm': [48000, 96000, 192000, 32000], 'voice': [48000, 16000, 8000, 44100]}
SNRS = {'ssb': [60, 45, 35], 'am': [60, 45, 35], 'fm': [60, 45, 30], 'voice': [40, 30, 25]}


def write(folder, name, kind, make):
    rng = seed_of(name)
    rate = int(rng.choice(RATES[kind]))
    # Narrow files can't hold what an overdriven amplifier makes.
    x = voice(name.split('-')[0] + '-' + name.split('-')[1], rate, SECONDS, float(rng.uniform(0, 10)))
    snr = int(rng.choice(SNRS[kind]))
    path = f'{folder}/{name}.wav'
    if kind == 'voice':
        y = make(x, rate)
        lead = np.zeros(int(0.6 * rate))
        y = np.concatenate([lead, y, lead]) if 'clipped' not in name else y
        if 'flat-tops' not in name and 'clipped' not in name:
            y = receiver_noise(y, rate, snr, rng)
            y = y / np.max(np.abs(y)) * 0.5
        wavfile.write(path, rate, np.round(np.clip(y, -1, 32767 / 32768) * 32768).clip(-32768, 32767).astype(np.int16))
        return rate, snr, {}
    z = make(x, rate)
    offset = float(rng.uniform(0.1, 0.2) * rate * rng.choice([-1, 1])) if rate > 30000 else float(rng.uniform(-500, 500))
    if rng.random() < 0.25:
        # The signal's own centre is the file's: a receiver tuned to it.
        offset, z = 0.0, z * np.exp(2j * np.pi * rng.random())
    sideband = 'usb' if rng.random() < 0.5 else 'lsb'
    if kind == 'ssb' and sideband == 'lsb':
        z = np.conj(z)
    count = int(rng.integers(1, 3))
    z = keyed(z, rate, rng) if count == 1 else np.concatenate([keyed(part, rate, rng) for part in np.array_split(z, 2)])
    z = on_air(z, rate, offset, snr, rng)
    wavfile.write(path, rate, np.round(np.stack([z.real, z.imag], 1) * 32767).astype(np.int16))
    return rate, snr, {'carrierHz': offset, **({'sideband': sideband} if kind == 'ssb' else {})} if kind == 'ssb' else {}


if __name__ == '__main__':
    folder = sys.argv[1]
    part, of = (int(sys.argv[2]), int(sys.argv[3])) if len(sys.argv) > 3 else (0, 1)
    manifest = []
    for name, kind, fault, accepted, make, truth in plan():
        # By the name: every part has something of every kind and voice.
        if zlib.crc32(name.encode()) % of != part:
            continue
        rate, snr, options = write(folder, name, kind, make)
        who = '-'.join(name.split('-')[:2])
        manifest.append({'file': f'{name}.wav', 'name': name, 'kind': kind, 'voice': who, 'recorded': who in RECORDED, 'fault': fault,
                         'accepted': accepted, 'truth': truth, 'rateHz': rate, 'snrDb': snr, 'options': options})
    json.dump(manifest, open(f'{folder}/manifest.json', 'w'))
