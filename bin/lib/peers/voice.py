"""The voice measurement as an engineer at home in numpy writes it; bin/bench races it. usage: voice.py FILE"""
from blocks import fft, hann, np, opened, powers, sliding_window_view, sys, tell  # first: it keeps numpy to one thread
from scipy.ndimage import maximum_filter1d
from scipy.signal import lfilter, sosfilt

BLOCK, SIZE = 307200, 8192  # 6.4 s at 48 kHz; a spectrum's frame
# ITU-R BS.1770, tables 1 and 2 (48 kHz)
K_WEIGHTING = np.array([[1.53512485958697, -2.69169618940638, 1.19839281085285, 1, -1.69065929318241, 0.73248077421585],
                        [1, -2, 1, 1, -1.99004745483398, 0.99007225036621]])
ROW = {step: np.full(step, 1 / step, np.float32) for step in (8, 48)}


def active_level(means, energy, samples):
    """ITU-T P.56, method B, on means of |x| over a millisecond."""
    g = np.exp(-1 / 30)
    envelope = maximum_filter1d(lfilter([(1 - g) ** 2], [1, -2 * g, g * g], means), 201, origin=100, mode="constant")
    thresholds = 2.0 ** np.arange(-15, 0)
    counts = np.maximum([np.count_nonzero(envelope >= t) for t in thresholds], 1e-9) * samples / len(envelope)
    levels = 10 * np.log10(energy / counts)
    over = levels - 20 * np.log10(thresholds) - 15.9
    k = int(np.argmax(over <= 0))
    return float(levels[0] if k == 0 else levels[k - 1] + over[k - 1] / (over[k - 1] - over[k]) * (levels[k] - levels[k - 1]))


def loudness(tenths):
    """ITU-R BS.1770 from weighted energies of 100 ms."""
    sums = np.concatenate(([0.0], np.cumsum(tenths)))
    blocks = (sums[4:] - sums[:-4]) / 4
    loud = blocks[blocks > 10 ** ((0.691 - 70) / 10)]
    return float(-0.691 + 10 * np.log10(loud[loud > loud.mean() / 10].mean()))


def pitch(x, rate):
    """Median over 40 ms frames, half overlapped, by their autocorrelation through the spectrum."""
    size, padded, low, high = 240, 512, rate // 400, rate // 60
    window = hann(size)
    own = fft.irfft(np.abs(fft.rfft(window, padded)) ** 2, padded)
    even = (own[0] / own[: high + 1]).astype(np.float32)
    frames = sliding_window_view(x, size)[:: size // 2]
    level = np.einsum("ij,ij->i", frames, frames)
    talk = np.flatnonzero(level > level.max() * 10**-2.5)
    found = []
    for k in range(0, len(talk), 256):
        s = fft.rfft(frames[talk[k : k + 256]] * window, padded, axis=-1, workers=1)
        r = fft.irfft(s.real**2 + s.imag**2, padded, axis=-1, workers=1)[:, : high + 1] * even
        best = r[:, low:].max(1)
        lag = low + np.argmax(r[:, low:] >= 0.9 * best[:, None], axis=1)
        found.append(rate / lag[best > 0.5 * r[:, 0]])
    return float(np.median(np.concatenate(found)))


def measure(path):
    file, rate, total = opened(path, 1)
    codes = np.frombuffer(file.readframes(total), "<i2")
    total = len(codes)
    means, frames, tenths, slow, levels = [], [], [], [], []
    state = np.zeros((2, 2))
    window = hann(SIZE)
    energy, peak = 0.0, 0
    for at in range(0, total, BLOCK):
        raw = codes[at : at + BLOCK]
        peak = max(peak, int(raw.max()), -int(raw.min()))
        x = raw * np.float32(1 / 32768)
        means.append(np.abs(x[: len(x) // 48 * 48]).reshape(-1, 48) @ ROW[48])
        rows = x[: len(x) // 2400 * 2400].reshape(-1, 2400)
        frames.append(np.einsum("ij,ij->i", rows, rows) / 2400)
        energy += float(np.dot(x, x))
        y, state = sosfilt(K_WEIGHTING, x, zi=state)
        y = y[: len(y) // 4800 * 4800].reshape(-1, 4800)
        tenths.append(np.einsum("ij,ij->i", y, y) / 4800)
        slow.append(x[: len(x) // 8 * 8].reshape(-1, 8) @ ROW[8])
    powers_of = np.concatenate(frames)
    active = powers_of > powers_of.max() * 10**-2.5
    starts = np.arange(0, total - SIZE + 1, SIZE // 2)
    chosen = np.flatnonzero(active[np.minimum((starts + SIZE // 2) // 2400, len(active) - 1)])
    cut = sliding_window_view(codes, SIZE)[:: SIZE // 2]
    window_scaled = window / np.float32(32768)
    sums = np.zeros(SIZE // 2 + 1)
    for k in range(0, len(chosen), 16):
        sums += powers(fft.rfft(cut[chosen[k : k + 16]] * window_scaled, axis=-1, workers=1)).sum(0)
    bin_hz = rate / SIZE
    cumulative = np.concatenate(([0.0], np.cumsum(sums)))
    upTo = lambda hz: np.interp(hz / bin_hz + 0.5, np.arange(len(cumulative)), cumulative)  # noqa: E731
    centres = 1000 * 10 ** (np.arange(-10, 7) / 10)
    thirds = upTo(centres * 10**0.05) - upTo(centres * 10**-0.05)
    level = active_level(np.concatenate(means).astype(np.float64), energy, total)
    tell({"activeSpeechLevelDb": level, "loudnessLufs": loudness(np.concatenate(tenths)),
          "peakToAverageDb": float(20 * np.log10(peak / 32768) - level),
          "noiseFloorDb": float(np.percentile(10 * np.log10(powers_of[powers_of > 0]), 10)),
          "thirdOctaveDb": [[float(c), float(v)] for c, v in zip(centres, 10 * np.log10(thirds / thirds.max()))],
          "pitchHz": pitch(np.concatenate(slow), rate // 8)})


if len(sys.argv) == 2:
    measure(sys.argv[1])
