"""The SSB measurement as an engineer at home in numpy writes it; bin/bench races it. usage: ssb.py FILE CARRIER_HZ"""
from blocks import fft, hann, np, opened, powers, sliding_window_view, sys, tell

SIZE, BATCH, PARTS = 16384, 16, 1024  # a frame, frames at once, bins of the voice's own channel


def measure(path, carrier):
    file, rate, total = opened(path, 2)
    hop, bin_hz = SIZE // 2, rate / SIZE
    count = (total - SIZE) // hop + 1
    window = hann(SIZE)
    density = 1 / (count * 0.375)
    window /= 32768 * SIZE
    middle = round((carrier + 1500) / bin_hz)
    chosen = np.fft.ifftshift((middle + np.arange(-PARTS // 2, PARTS // 2)) % SIZE)
    slope = np.clip((4500 - np.abs(np.fft.fftfreq(PARTS) * PARTS * bin_hz)) / 1000, 0, 1)
    mask = (np.sin(np.pi / 2 * slope) ** 2 * SIZE).astype(np.float32)
    turns = np.where(np.arange(BATCH + 1) * middle % 2, -1, 1).astype(np.float32)[:, None] * np.float32(PARTS / SIZE)
    spectra = np.empty((count, SIZE), np.float32)
    envelope = np.empty((count, PARTS // 2), np.float32)
    level = np.empty(count)
    overlap = np.zeros(PARTS // 2, np.complex64)
    held = np.empty((0, 2), np.int16)
    clipped = 0
    for k in range(0, count, BATCH):
        n = min(BATCH, count - k)
        fresh = np.frombuffer(file.readframes((n - 1) * hop + SIZE - len(held)), "<i2").reshape(-1, 2)
        if fresh.max() == 32767 or fresh.min() == -32768:
            clipped += int(((fresh == 32767) | (fresh == -32768)).sum())
        codes = np.concatenate((held, fresh))
        held = codes[n * hop :]
        z = codes.astype(np.float32).view(np.complex64)[:, 0]
        x = fft.fft(sliding_window_view(z, SIZE)[::hop] * window, axis=-1, workers=1, overwrite_x=True)
        y = fft.ifft(np.take(x, chosen, axis=1) * mask, axis=-1, workers=1, overwrite_x=True)
        y *= turns[k % 2 :][:n]
        flat = y.view(np.float32)
        level[k : k + n] = np.einsum("ij,ij->i", flat, flat)
        halves = y.reshape(n, 2, -1)
        halves[0, 0] += overlap
        halves[1:, 0] += halves[:-1, 1]
        overlap = halves[-1, 1].copy()
        np.square(halves.real[:, 0], out=envelope[k : k + n])
        envelope[k : k + n] += np.square(halves.imag[:, 0])
        spectra[k : k + n] = powers(x)
    active = level > level.max() * 10**-2.5
    mean = np.fft.fftshift((active.astype(np.float32) @ spectra).astype(np.float64)) * density * count / active.sum()
    highest = np.zeros(SIZE, np.float32)
    for k in range(0, count, 64):
        if active[k : k + 64].any():
            np.maximum(highest, spectra[k : k + 64][active[k : k + 64]].max(0), out=highest)
    f = np.fft.fftshift(np.fft.fftfreq(SIZE, 1 / rate)) - carrier
    band = lambda low, high: mean[(f >= low) & (f <= high)].sum()  # noqa: E731
    wanted = band(100, 3000)
    cumulative = np.cumsum(np.where(np.abs(f - 1500) < 15000, mean, 0))
    edges = np.interp([0.005, 0.995], cumulative / cumulative[-1], f + bin_hz / 2)
    loud = f[np.fft.fftshift(highest) >= highest.max() * 1e-4]
    talk = envelope[active & np.roll(active, 1)]
    top = float(np.partition(talk.reshape(-1), int(talk.size * 0.999))[int(talk.size * 0.999)])
    re = lambda low, high: float(10 * np.log10(band(low, high) / wanted))  # noqa: E731
    tell({"clippedShare": clipped / (2 * total), "oppositeSidebandDb": re(-3000, -100), "carrierDb": re(-30, 30),
          "adjacentDb": {"wantedSide": re(3300, 6300), "otherSide": re(-6300, -3300)},
          "occupiedBandwidthHz": float(edges[1] - edges[0]), "extentHz": [float(loud[0]), float(loud[-1])],
          "peakToAverageDb": float(10 * np.log10(top / talk.mean(dtype=np.float64)))})


if len(sys.argv) == 3:
    measure(sys.argv[1], float(sys.argv[2]))
