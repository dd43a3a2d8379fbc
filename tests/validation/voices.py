"""Recorded and synthetic voices for validation: what Debian's packages hold, as float arrays.

Recorded: pocketsphinx-testdata, alsa-utils, asterisk-core-sounds-{en,es,fr,ru}-wav, asterisk-prompt-it-menardi-wav
(each a person of whom nothing more is said here). Synthetic: espeak-ng.
"""
import glob
import os
import subprocess
import tempfile

import numpy as np
import scipy.io.wavfile as wavfile
import scipy.signal as sig

SPHINX = '/usr/share/pocketsphinx/test/data'
ASTERISK = '/usr/share/asterisk/sounds'
# Longest prompts of a language, without lists of digits and letters.
TEXT = ('Good morning, this is a test of my transmitter. I am using the new microphone, about five centimetres away. '
        'How is my audio today? The weather is fine here, with a light breeze from the west. '
        'Please tell me whether the highs are better than last week, over.')


def read(path):
    """-> rate in Hz, mono samples in -1 .. 1"""
    if path.endswith('.raw'):
        return 16000, np.fromfile(path, '<i2') / 32768
    rate, x = wavfile.read(path)
    x = x / 32768 if x.dtype == np.int16 else x.astype(float)
    return rate, x if x.ndim == 1 else x.mean(axis=1)


def joined(paths, pause_s=0.45):
    """Several prompts of one voice in a row at one speech level, with pauses that hold the recordings' own noise."""
    parts, rate = [], None
    for path in paths:
        rate, x = read(path)
        rms = np.sqrt(np.mean(x ** 2)) or 1
        parts += [0.1 * x / rms, 0.1 * x[:1] / rms * np.zeros(int(pause_s * rate))]
    return rate, np.concatenate(parts)


def longest(pattern, count, skip=0):
    found = [p for p in glob.glob(pattern) if os.path.getsize(p) > 24000]
    return sorted(found, key=lambda p: (-os.path.getsize(p), p))[skip:skip + count]


def spoken(voice, pitch, speed=160):
    with tempfile.NamedTemporaryFile(suffix='.wav') as file:
        subprocess.run(['espeak-ng', '-v', voice, '-p', str(pitch), '-s', str(speed), '-w', file.name, TEXT], check=True)
        return read(file.name)


SOURCES = {
    'man-1': lambda: joined(sorted(glob.glob(f'{SPHINX}/cards/*.wav'))),
    'man-2': lambda: joined([f'{SPHINX}/goforward.raw', f'{SPHINX}/something.raw', f'{SPHINX}/numbers.raw']),
    'woman-1': lambda: joined(sorted(glob.glob(f'{SPHINX}/librivox/*.wav'))[:3], 0.2),
    'woman-2': lambda: joined(sorted(glob.glob('/usr/share/sounds/alsa/[FRS]*_*.wav')), 0.1),
    'woman-3': lambda: joined(longest(f'{ASTERISK}/en_US_*/*.wav', 2, 1)),
    'woman-4': lambda: joined(longest(f'{ASTERISK}/es_MX_*/*.wav', 2, 1)),
    'woman-5': lambda: joined(longest(f'{ASTERISK}/fr_CA_*/*.wav', 2, 1)),
    'woman-6': lambda: joined(longest(f'{ASTERISK}/ru_RU_*/*.wav', 2, 1)),
    'woman-7': lambda: joined(longest(f'{ASTERISK}/it_IT_*/*.wav', 3, 1)),
    'synthetic-low': lambda: spoken('en-gb+m3', 20),
    'synthetic-high': lambda: spoken('en-us+f3', 70),
}
RECORDED = [name for name in SOURCES if not name.startswith('synthetic')]
_kept = {}


def voice(name, rate, seconds, start_s=0.0):
    """A stretch of a voice at a rate, active level about -20 dB. Repeats a short recording."""
    if name not in _kept:
        own, x = SOURCES[name]()
        _kept[name] = own, x / (np.sqrt(np.mean(x ** 2)) or 1) * 0.1
    own, x = _kept[name]
    need = int(seconds * own) + 1
    first = int(start_s * own) % max(1, len(x))
    x = np.tile(x, 2 + need // len(x))[first:first + need]
    if own == rate:
        return x[:int(seconds * rate)]
    common = np.gcd(own, rate)
    return sig.resample_poly(x, rate // common, own // common)[:int(seconds * rate)]
