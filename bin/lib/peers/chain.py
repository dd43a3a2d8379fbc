"""The transmit chain as an engineer at home in numpy writes it; bin/bench races it. usage: chain.py FILE OUT.wav"""
import wave

from blocks import Fir, np, opened, sys, tell  # first: it keeps numpy to one thread
from scipy.signal import firwin, sosfilt

BLOCK, TAPS = 65536, 601  # the passband falls by 80 dB within 400 Hz at 48 kHz


def peaking(rate, hz, gain_db, octaves):
    w, a = 2 * np.pi * hz / rate, 10 ** (gain_db / 40)
    alpha = np.sin(w) * np.sinh(np.log(2) / 2 * octaves * w / np.sin(w))
    b, c = [1 + alpha * a, -2 * np.cos(w), 1 - alpha * a], [1 + alpha / a, -2 * np.cos(w), 1 - alpha / a]
    return np.array(b + c) / c[0]


def render(path, out):
    file, rate, _ = opened(path, 1)
    target = wave.open(out, "wb")
    target.setnchannels(1)
    target.setsampwidth(2)
    target.setframerate(rate)
    sections = np.array([peaking(rate, 300, -4, 1.5), peaking(rate, 1200, 2, 1), peaking(rate, 2400, 6, 1)], np.float32)
    state = np.zeros((3, 2), np.float32)
    low = firwin(TAPS, 1200, fs=rate, window=("kaiser", 7.857))
    turn = np.exp(2j * np.pi * 1500 / rate * (np.arange(TAPS) - TAPS // 2))
    first, second = Fir((2 * low * turn).astype(np.complex64), 4096, True), Fir((low * turn).astype(np.complex64), 4096, False)
    fall = (np.log(10) / 20 * 12 / 0.5 / rate * np.arange(BLOCK)).astype(np.float32)  # 12 dB in half a second
    held = np.float32(0)
    power = count = 0
    while raw := file.readframes(BLOCK):
        x, state = sosfilt(sections, np.frombuffer(raw, "<i2") * np.float32(10 / 32768), zi=state)
        z = first(x)
        size = np.abs(z)
        z *= np.divide(np.float32(10**0.2), np.maximum(size, np.float32(10**-0.3), out=size), out=size)
        z = second(z)
        # ALC: an envelope that rises at once and falls slowly
        n = len(z)
        over = np.abs(z)
        np.maximum(over, np.float32(1), out=over)
        np.log(over, out=over)
        over *= np.float32(11 / 12)
        over += fall[:n]
        over[0] = max(over[0], held)
        np.maximum.accumulate(over, out=over)
        over -= fall[:n]
        held = over[-1]
        z *= np.exp(np.negative(over, out=over), out=over)
        y = z.real * np.float32(1.001)
        y += np.float32(0.0018)
        flat = z.view(np.float32)
        np.multiply(flat, flat, out=flat)
        square = flat[0::2] + flat[1::2]
        square *= np.float32(10**-0.15)
        bend = square * square
        bend *= square
        bend += 1
        np.log(bend, out=bend)
        bend *= np.float32(-1 / 6)
        y *= np.exp(bend, out=bend)
        power += float(np.dot(y, y))
        count += n
        target.writeframes(np.clip(np.rint(y * np.float32(32767)), -32768, 32767).astype("<i2").tobytes())
    target.close()
    tell({"rmsDb": float(10 * np.log10(power / count))})


if len(sys.argv) == 3:
    render(sys.argv[1], sys.argv[2])
