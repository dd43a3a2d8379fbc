"""The work of the SSB measurement as a competent engineer would script it with SciPy; bin/bench times it."""
import sys
import time

import numpy as np
import scipy.fft
import scipy.io.wavfile as wavfile
import scipy.signal as sig


def measure(path, carrier):
    rate, data = wavfile.read(path)
    clipped = np.mean((data == 32767) | (data == -32768))
    z = (data[:, 0].astype(np.float32) + 1j * data[:, 1].astype(np.float32)) * np.float32(1 / 32768)
    frame = int(0.05 * rate)
    power = z.real**2 + z.imag**2
    frames = power[: len(z) // frame * frame].reshape(-1, frame).mean(axis=1)
    active = frames >= frames.max() * 10**-2.5
    inside = power[: len(frames) * frame].reshape(-1, frame)[active].ravel()
    papr = np.percentile(inside, 99.9) / inside.mean()
    # averaged and held spectra over active windows, a block of windows at a time
    size = 2 ** int(np.ceil(np.log2(rate / 12)))
    window = sig.get_window("hann", size).astype(np.float32)
    starts = np.arange(0, len(z) - size + 1, size // 2)
    weights = np.array([active[s // frame : min((s + size) // frame + 1, len(active))].mean() for s in starts])
    total = np.zeros(size)
    held = np.zeros(size, np.float32)
    for at in range(0, len(starts), 64):
        chunk = np.stack([z[s : s + size] for s in starts[at : at + 64]]) * window
        spectrum = scipy.fft.fft(chunk, overwrite_x=True)
        p = spectrum.real**2 + spectrum.imag**2
        w = weights[at : at + 64]
        total += w @ p
        held = np.maximum(held, p[w > 0].max(axis=0, initial=0))
    mean = np.fft.fftshift(total / weights.sum() / (rate * np.sum(window**2)))
    held = np.fft.fftshift(held)
    f = np.fft.fftshift(np.fft.fftfreq(size, 1 / rate)) - carrier
    band = lambda lo, hi: mean[(f >= lo) & (f < hi)].sum()
    noise = np.median(mean[np.abs(f) > 10000])
    wanted = band(100, 3000)
    near = np.abs(f) <= 15000
    cumulative = np.cumsum(mean[near] - noise)
    cumulative /= cumulative[-1]
    edges = f[near][np.searchsorted(cumulative, [0.005, 0.995])]
    extent = f[held > held.max() * 1e-4]
    return clipped, papr, edges, extent[[0, -1]], [band(*b) / wanted for b in ((-3000, -100), (-30, 30), (3300, 6300), (-6300, -3300))]


start = time.process_time()
measure(sys.argv[1], float(sys.argv[2]))
print(time.process_time() - start)
