"""What the peers share: samples block by block, filters that carry their state, one thread."""
import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
import json  # noqa: E402
import sys  # noqa: E402
import wave  # noqa: E402

import numpy as np  # noqa: E402
from numpy.lib.stride_tricks import sliding_window_view  # noqa: E402
import scipy.fft as fft  # noqa: E402


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
    """One-sided taps on a stream by overlap-save, in batches of transforms; complex samples come out. Of real samples only
    the positive frequencies are worked out: the taps leave nothing of the others."""

    def __init__(self, taps, size, takes_real):
        self.size, self.keep, self.half = size, len(taps) - 1, size // 2 + 1
        self.takes_real, self.kind = takes_real, np.float32 if takes_real else np.complex64
        self.response = fft.fft(taps, size).astype(np.complex64)
        self.tail = np.zeros(self.keep, self.kind)
        self.spectra = np.zeros((16, size), np.complex64)

    def __call__(self, x):
        hop = self.size - self.keep
        steps = -(-len(x) // hop)
        padded = np.zeros(self.keep + steps * hop, self.kind)
        padded[: self.keep] = self.tail
        padded[self.keep : self.keep + len(x)] = x
        self.tail = padded[len(x) : len(x) + self.keep].copy()
        frames = sliding_window_view(padded, self.size)[::hop]
        out = np.empty((steps, hop), np.complex64)
        for k in range(0, steps, 16):
            part = frames[k : k + 16]
            if self.takes_real:
                s = self.spectra[: len(part)]
                np.multiply(fft.rfft(part, axis=-1, workers=1), self.response[: self.half], out=s[:, : self.half])
                s[:, self.half :] = 0
            else:
                s = fft.fft(part, axis=-1, workers=1)
                s *= self.response
            out[k : k + 16] = fft.ifft(s, axis=-1, workers=1, overwrite_x=True)[:, self.keep :]
        return out.reshape(-1)[: len(x)]


def tell(numbers):
    print(json.dumps(numbers))
