"""The transmit chain as a competent engineer would script it with SciPy, vectorised, at the file's rate; bin/bench times it."""
import sys
import time

import numpy as np
import scipy.io.wavfile as wavfile
import scipy.signal as sig


def peaking(rate, centre, gain, octaves):
    w = 2 * np.pi * centre / rate
    a = 10 ** (gain / 40)
    alpha = np.sin(w) * np.sinh(np.log(2) / 2 * octaves * w / np.sin(w))
    b = np.array([1 + alpha * a, -2 * np.cos(w), 1 - alpha * a])
    return np.r_[b, [1 + alpha / a, -2 * np.cos(w), 1 - alpha / a]] / (1 + alpha / a)


def one_pole(seconds, rate):
    g = 1 - np.exp(-1 / (rate * seconds))
    return [g], [1, g - 1]


def render(path):
    rate, data = wavfile.read(path)
    x = data.astype(np.float32) / np.float32(32768)
    x *= np.float32(10)
    sos = np.stack([peaking(rate, 300, -4, 1.5), peaking(rate, 1200, 2, 1), peaking(rate, 2400, 6, 1)])
    x = sig.sosfilt(sos, x)
    taps = sig.firwin(1606 | 1, 1200, fs=rate, window=("kaiser", 7.857))
    band = (2 * taps * np.exp(2j * np.pi * 1500 / rate * (np.arange(len(taps)) - len(taps) // 2))).astype(np.complex64)
    z = sig.oaconvolve(x.astype(np.complex64), band, mode="same")
    # RF clipper and its filter
    r = np.abs(z)
    z *= np.minimum(10 ** (10 / 20), 10 ** (4 / 20) / np.maximum(r, 1e-9)).astype(np.float32)
    z = sig.oaconvolve(z, band / 2, mode="same")
    # ALC: the smoothing is vectorised by filtering the wanted reduction, attack and release one after the other
    r = np.abs(z)
    wanted = np.maximum(0, 20 * np.log10(np.maximum(r, 1e-9))) * (1 - 1 / 12)
    slow = sig.lfilter(*one_pole(0.5, rate), wanted)
    fast = sig.lfilter(*one_pole(0.002, rate), wanted)
    z *= (10 ** (-np.maximum(slow, fast) / 20)).astype(np.float32)
    meter = np.max(np.maximum(slow, fast)[: len(r) // 2400 * 2400].reshape(-1, 2400), axis=1)
    # balance and amplifier
    z = z + np.float32(10 ** (-60 / 20)) * np.conj(z) + np.float32(10 ** (-55 / 20))
    power = z.real**2 + z.imag**2
    z *= (1 + (power / 10**0.15) ** 3) ** (-1 / 6)
    return z, meter


start = time.process_time()
render(sys.argv[1])
print(time.process_time() - start)
