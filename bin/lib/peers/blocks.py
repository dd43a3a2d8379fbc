"""What the peers share: samples block by block, filters that carry their state, one thread."""
import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
import json  # noqa: E402
import sys  # noqa: E402
import wave  # noqa: E402

import numpy as np  # noqa: E402
from numpy.lib.stride_tricks import sliding_window_view  # noqa: E402
import scipy.fft as fft  # noqa: E402
from scipy.signal import lfilter, sosfilt  # noqa: E402, F401


def opened(path, channels):
    file = wave.open(path, "rb")
    if file.getnchannels() != channels or file.getsampwidth() != 2:
        sys.exit(f"{path}: {channels} channel(s) of 16 bits are needed")
    return file, file.getframerate(), file.getnframes()


def hann(size):
    return (0.5 - 0.5 * np.cos(2 * np.pi * np.arange(size) / size)).astype(np.float32)


def powers(spectra):
    """Squared magnitudes of a batch of spectra; the batch is used up."""
    flat = spectra.view(np.float32)
    np.multiply(flat, flat, out=flat)
    return flat[:, 0::2] + flat[:, 1::2]


class Fir:
    """A filter on a stream by overlap-save, in batches of transforms; complex taps take and give complex samples."""

    def __init__(self, taps, size):
        self.is_complex = np.iscomplexobj(taps)
        self.kind = np.complex64 if self.is_complex else np.float32
        self.size, self.keep = size, len(taps) - 1
        self.response = (fft.fft(taps, size) if self.is_complex else fft.rfft(taps, size)).astype(np.complex64)
        self.tail = np.zeros(self.keep, self.kind)

    def __call__(self, x):
        hop = self.size - self.keep
        steps = -(-len(x) // hop)
        padded = np.zeros(self.keep + steps * hop, self.kind)
        padded[: self.keep] = self.tail
        padded[self.keep : self.keep + len(x)] = x
        self.tail = padded[len(x) : len(x) + self.keep].copy()
        frames = sliding_window_view(padded, self.size)[::hop]
        out = np.empty((steps, hop), self.kind)
        forward, back = (fft.fft, fft.ifft) if self.is_complex else (fft.rfft, fft.irfft)
        for k in range(0, steps, 16):
            s = forward(frames[k : k + 16], axis=-1, workers=1)
            s *= self.response
            out[k : k + 16] = back(s, self.size, axis=-1, workers=1, overwrite_x=True)[:, self.keep :]
        return out.reshape(-1)[: len(x)]


def tell(numbers):
    print(json.dumps(numbers))
