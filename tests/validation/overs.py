"""Overs of several texts of one recorded voice at 16 kHz: usage: overs.py FOLDER  writes VOICE-N.wav, about 8 s each."""
import glob
import sys

import numpy as np
import scipy.io.wavfile as wavfile
import scipy.signal as sig

from voices import ASTERISK, SPHINX, longest, read

VOICES = {
    'a': sorted(glob.glob(f'{SPHINX}/librivox/*.wav')),
    'b': longest(f'{ASTERISK}/en_US_*/*.wav', 40, 1),
    'c': longest(f'{ASTERISK}/es_MX_*/*.wav', 40, 1),
    'd': longest(f'{ASTERISK}/fr_CA_*/*.wav', 40, 1),
    'e': longest(f'{ASTERISK}/ru_RU_*/*.wav', 40, 1),
    'f': longest(f'{ASTERISK}/it_IT_*/*.wav', 40, 1),
}
TEXTS = 4
LEAST_S, MOST_S = 8, 12


def texts(paths):
    held, seconds, found = [], 0, []
    for path in paths:
        rate, x = read(path)
        x = x[:MOST_S * rate]
        held += [0.1 * x / np.sqrt(np.mean(x ** 2)), np.zeros(int(0.3 * rate))]
        seconds += len(x) / rate
        if seconds < LEAST_S and len(paths) > TEXTS + 1:
            continue
        found.append((rate, np.concatenate(held)))
        held, seconds = [], 0
        if len(found) == TEXTS:
            break
    return found


for name, paths in VOICES.items():
    for n, (rate, x) in enumerate(texts(paths)):
        common = np.gcd(rate, 16000)
        y = sig.resample_poly(x, 16000 // common, rate // common)
        y = y / np.sqrt(np.mean(y ** 2)) * 0.05
        wavfile.write(f'{sys.argv[1]}/{name}-{n}.wav', 16000, np.round(np.clip(y, -1, 1) * 32767).astype(np.int16))
