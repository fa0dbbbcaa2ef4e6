#!/usr/bin/env python3
"""Measures a trace again, from the words of docs/feel.md alone, and prints one JSON object.

    independent.py TRACE.csv
"""
import csv
import json
import math
import sys


def read(path):
    with open(path, newline="") as file:
        rows = list(csv.DictReader(file))
    texts = {"framing", "obstacle", "covering", "events", "blocks", "device", "lock", "camera", "filmed", "framing_from",
             "framing_to", "pull_in_foreseen", "flags", "numbers", "targets_on_screen", "group_left_out", "group_hidden",
             "fading"}
    return [{key: (value if key in texts else float(value)) for key, value in row.items()} for row in rows]


def point(frame, name):
    return [frame[f"{name}_{axis}_m"] for axis in "xyz"]


def minus(a, b):
    return [x - y for x, y in zip(a, b)]


def dot(a, b):
    return sum(x * y for x, y in zip(a, b))


def length(a):
    return math.sqrt(dot(a, a))


def cross(a, b):
    return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]


def angle(a, b):
    return math.degrees(math.atan2(length(cross(a, b)), dot(a, b)))


def axes(frame):
    """Right, up and backward of a view without roll."""
    y, p = math.radians(frame["yaw_deg"]), math.radians(frame["pitch_deg"])
    back = [math.sin(y) * math.cos(p), -math.sin(p), math.cos(y) * math.cos(p)]
    right = [math.cos(y), 0, -math.sin(y)]
    up = [math.sin(y) * math.sin(p), math.cos(p), math.cos(y) * math.sin(p)]
    return right, up, back


def stretches(frames, counts):
    runs, run = [], []
    for frame in frames:
        if not counts(frame) or "cut" in frame["events"].split():
            runs.append(run)
            run = []
        if counts(frame):
            run.append(frame)
    return [r for r in runs + [run] if r]


def share(values, part):
    return sorted(values)[math.ceil(part * len(values)) - 1] if values else None


def looks(f):
    return any(f[k] != 0 for k in ("look_x_counts", "look_y_counts", "look_rate_x_degps", "look_rate_y_degps"))


def walks(f):
    return f["move_x"] != 0 or f["move_y"] != 0


def own(f):
    return f["camera"] in ("", "character")


def assisted(f):
    return (f["swing_back_deg"] != 0 or f["lock"] != "" or f["hand_share"] < 1 or f["idle_drift_degps"] != 0 or not own(f)
            or f["framing_blend"] < 1)


def head_moved(f):
    """The turn from where the head would be in the picture to where it is, degrees."""
    would, is_ = (minus(point(f, "head"), point(f, eye)) for eye in ("free", "camera"))
    would, is_ = ([dot(axis, to) for axis in axes(f)] for to in (would, is_))
    across = cross(would, is_)
    far = length(across)
    return [angle(would, is_) / far * v for v in across] if far > 0 else [0, 0, 0]


def shows(f):
    return f["free_distance_m"] > 0.2


def loss(a, b):
    return max(min(a["distance_m"], b["free_distance_m"]) - b["distance_m"], 0)


def look_rates(run):
    rates = [0.0]
    for i in range(1, len(run)):
        first = i - 1
        while first > 0 and run[i]["time_s"] - run[first - 1]["time_s"] <= 0.05 + 1e-9:
            first -= 1
        turned = sum(angle(axes(run[k])[2], axes(run[k + 1])[2]) for k in range(first, i))
        rates.append(turned / (run[i]["time_s"] - run[first]["time_s"]))
    return rates


def pops(run, rates):
    """All losses within 1/60 s that are large enough; of those that overlap with the first the largest, and so on."""
    def ending_at(i, floor):
        best = None
        for a in range(i - 1, floor - 1, -1):
            span = run[i]["time_s"] - run[a]["time_s"]
            if a < i - 1 and span > 1 / 60 + 1e-6:
                break
            best = (loss(run[a], run[i]) * min(1, (1 / 60) / span * 1.0001), a, i)
        return best
    found, floor, i = [], 0, 1
    while i < len(run):
        first = ending_at(i, floor)
        if first[0] > 0.25:
            overlapping = [first] + [w for w in (ending_at(k, floor) for k in range(i + 1, len(run))) if w[1] < i]
            best = max(overlapping, key=lambda w: w[0])
            found.append((best[0], rates[best[2]]))
            floor = i = best[2]
        i += 1
    return found


def pumps(run, depth):
    """In, out and in again: turning points of the sum of losses that differ by the depth."""
    total, sums = 0.0, [0.0]
    for a, b in zip(run, run[1:]):
        free = all(f["distance_m"] >= f["free_distance_m"] - 1e-6 for f in (a, b))
        total += 0 if free else min(a["distance_m"], b["free_distance_m"]) - b["distance_m"]
        sums.append(total)
    turning, inward, best, when = [], False, sums[0], run[0]["time_s"]
    for value, frame in zip(sums, run):
        ahead = value >= best if inward else value <= best
        if ahead:
            best, when = value, frame["time_s"]
        elif abs(value - best) >= depth:
            turning.append((inward, when))
            inward, best, when = not inward, value, frame["time_s"]
    return sum(1 for (was, a), (is_, b) in zip(turning, turning[1:]) if was and not is_ and b - a <= 1.5)


def shown_turn(run):
    yaw, pitch = [], []
    for f in run:
        y = f["yaw_deg"] - f["steady_yaw_deg"] - f["sway_yaw_deg"] - f["push_yaw_deg"]
        yaw.append(y if not yaw else yaw[-1] + math.remainder(y - yaw[-1], 360))
        pitch.append(f["pitch_deg"] - f["steady_pitch_deg"] - f["sway_pitch_deg"] - f["push_pitch_deg"])
    return yaw, pitch


def answers(run, out):
    time = [f["time_s"] for f in run]
    yaw, pitch = shown_turn(run)

    def turned(i, k):
        return abs(yaw[i] - yaw[k]) + abs(pitch[i] - pitch[k])

    def gone(i, k):
        return length(minus(point(run[i], "camera"), point(run[k], "camera")))

    def without(i, seconds, what):
        before = [k for k in range(i) if time[i] - time[k] <= seconds]
        return bool(before) and before[0] > 0 and not any(what(run[k]) for k in range(max(before[0] - 1, 0), i))

    def window(i, seconds, ends):
        k = i
        while k < len(run) and time[k] - time[i] <= seconds and not ends(k):
            k += 1
        return k

    def settles(i, end, since, away, tolerance):
        if end <= i:
            return None
        last = max([since] + [time[k] for k in range(i, end) if away(k) > tolerance])
        return last - since if time[end - 1] - last >= 0.1 else None

    def changed(k):
        return run[k]["zoom"] != 0 or "framing-changed" in run[k]["events"].split()

    for i in range(2, len(run)):
        f, before = run[i], run[i - 1]
        if looks(f) and not assisted(f) and turned(i - 1, i - 2) < 1e-4 and without(i, 0.1, looks):
            end = window(i, 0.5, lambda k: turned(k, i - 1) > 1e-4)
            if end < len(run) and turned(end, i - 1) > 1e-4:
                out["latency_frames"].append(end - i)
        if walks(f) and own(f) and gone(i - 1, i - 2) < 1e-5 and without(i, 0.3, walks) and without(i, 0.3, looks):
            end = window(i, 0.5, lambda k: gone(k, i - 1) > 1e-3)
            if end < len(run) and gone(end, i - 1) > 1e-3:
                out["walk_latency_frames"].append(end - i)
        if looks(before) and not looks(f):
            end = window(i, 1, lambda k: looks(run[k]) or assisted(run[k]))
            seconds = settles(i, end, before["time_s"], lambda k: turned(k, end - 1), 0.1)
            if seconds is not None:
                out["look_settle_s"].append(seconds)
        if before["speed_mps"] >= 0.05 > f["speed_mps"] and shows(f):
            end = window(i, 3, lambda k: run[k]["speed_mps"] >= 0.05 or looks(run[k]) or assisted(run[k])
                         or turned(k, i) > 0.01 * (k - i + 1))
            rest = point(run[end - 1], "pivot") if end > i else None
            seconds = settles(i, end, f["time_s"], lambda k: length(minus(point(run[k], "pivot"), rest)), 0.01)
            if seconds is not None:
                out["follow_settle_s"].append(seconds)
                way = minus(rest, point(f, "pivot"))
                far = length(way)
                beyond = [dot(minus(point(run[k], "pivot"), rest), way) / far for k in range(i, end)] if far > 0.02 else []
                out["follow_overshoot_m"].append(max([0] + beyond))
        if changed(i) and own(f):
            end = window(i, 3, lambda k: k > i and (changed(k) or not own(run[k])))
            for key, least in (("free_distance_m", 0.05), ("fov_deg", 0.5)):
                rest = run[end - 1][key]
                step = rest - before[key]
                if abs(step) < least:
                    continue
                seconds = settles(i, end, before["time_s"], lambda k: abs(run[k][key] - rest),
                                  max(0.01 * abs(step), 0.1 * least))
                if seconds is not None:
                    out["change_settle_s"].append(seconds)
                    out["change_overshoot"].append(max([0] + [(run[k][key] - rest) / step for k in range(i, end)]))


def apart(run, seconds):
    kept = []
    for i, f in enumerate(run):
        if not kept or f["time_s"] - run[kept[-1]]["time_s"] >= seconds - 1e-6:
            kept.append(i)
    return kept


def picture(run, out):
    yaw, pitch = shown_turn(run)
    rested, last = [], run[0]["time_s"]
    for f in run:
        last = f["time_s"] if looks(f) else last
        rested.append(f["time_s"] - last)
    out["aim_drift_deg"] += [f["aim_error_deg"] for f in run]
    for f in run:
        inside = abs(f["head_screen_x"]) <= 1 and abs(f["head_screen_y"]) <= 1
        if shows(f):
            out["visible"].append((f["visible"], f["dt_s"]))
            out["out_of_picture"].append((0 if inside else 1, f["dt_s"]))
    out["horizon_speed_dps"] += [abs(b["roll_deg"] - a["roll_deg"]) / (b["time_s"] - a["time_s"]) for a, b in zip(run, run[1:])]
    for i in range(3, len(run)):
        four = run[i - 3:i + 1]
        if any(not shows(f) or looks(f) or f["speed_mps"] < 0.05 or abs(f["head_screen_x"]) > 1 or abs(f["head_screen_y"]) > 1
               for f in four):
            continue
        t = [f["time_s"] for f in four]
        weights = [math.prod((t[2] - t[o]) / (t[k] - t[o]) for o in (0, 1, 3) if o != k) for k in (0, 1, 3)]
        norm = math.sqrt(1 + sum(w * w for w in weights))
        x = [f["head_screen_x"] * f["aspect"] * 540 for f in four]
        y = [f["head_screen_y"] * 540 for f in four]
        off = [(v[2] - sum(w * v[k] for w, k in zip(weights, (0, 1, 3)))) / norm for v in (x, y)]
        out["jitter_px"].append(off[0] ** 2 + off[1] ** 2)
    turns = apart(run, 1 / 60)
    for a, b, c in zip(turns, turns[1:], turns[2:]):
        if rested[c] < 0.25:
            continue
        def rate(i, k):
            seconds = run[k]["time_s"] - run[i]["time_s"]
            return [math.cos(math.radians(pitch[k])) * (yaw[k] - yaw[i]) / seconds, (pitch[k] - pitch[i]) / seconds]
        out["unasked_turn_dps2"].append(length(minus(rate(b, c), rate(a, b))) * 2 / (run[c]["time_s"] - run[a]["time_s"]))
    eyes = apart(run, 0.1)
    for a, b, c in zip(eyes, eyes[1:], eyes[2:]):
        if rested[c] < 0.25:
            continue
        ta, tb, tc = (run[k]["time_s"] for k in (a, b, c))
        va = [d / (tb - ta) for d in minus(point(run[b], "camera"), point(run[a], "camera"))]
        vb = [d / (tc - tb) for d in minus(point(run[c], "camera"), point(run[b], "camera"))]
        half = (tc - ta) / 2
        out["view_acceleration_mps2"].append((dot(minus(vb, va), minus(vb, va)) / half ** 2, half))


def mean(pairs):
    weight = sum(w for _, w in pairs)
    return sum(v * w for v, w in pairs) / weight if weight else None


def measure(frames):
    from collections import defaultdict
    out = defaultdict(list)
    seconds, popped, pumped, deep, distance, wanted = 0, [], 0, 0, 0, 0
    for run in stretches(frames, lambda f: f["dt_s"] > 0 and shows(f)):
        rates = look_rates(run)
        popped += pops(run, rates)
        pumped += pumps(run, 0.1)
        deep += pumps(run, 0.3)
        for f in run:
            seconds += f["dt_s"]
            distance += f["dt_s"] * f["distance_m"]
            wanted += f["dt_s"] * f["free_distance_m"]
            out["close"].append((1 if f["distance_m"] < 0.9 <= f["free_distance_m"] else 0, f["dt_s"]))
            out["pulled_in"].append((1 if f["distance_m"] < f["free_distance_m"] - 0.01 else 0, f["dt_s"]))
        for i, (a, b) in enumerate(zip(run, run[1:])):
            speed = loss(a, b) / b["dt_s"]
            out["in_speed_mps"].append(speed)
            if rates[i + 1] < 180:
                out["calm_in_speed_mps"].append(speed)
            more = max(b["free_distance_m"] - a["free_distance_m"], 0)
            free = a["distance_m"] >= a["free_distance_m"] - 1e-6
            out["out_speed_mps"].append(0 if free else max(b["distance_m"] - a["distance_m"] - more, 0) / b["dt_s"])
            if all(f["opacity"] > 0 and max(abs(f["head_screen_x"]), abs(f["head_screen_y"])) <= 1 for f in (a, b)):
                moved = length(minus(head_moved(b), head_moved(a)))
                out["head_speed_dps"].append(moved / b["dt_s"])
    for run in stretches(frames, lambda f: f["dt_s"] > 0):
        answers(run, out)
        picture(run, out)
    result = {}
    if seconds > 0:
        result["pops_per_minute"] = 60 * len(popped) / seconds
        result["calm_pops_per_minute"] = 60 * sum(1 for _, rate in popped if rate < 180) / seconds
        result["worst_pop_m"] = max([0] + [metres for metres, _ in popped])
        result["pumps_per_minute"] = 60 * pumped / seconds
        result["deep_pumps_per_minute"] = 60 * deep / seconds
        result["kept"] = distance / wanted
    for key in ("in_speed_mps", "calm_in_speed_mps", "out_speed_mps", "head_speed_dps", "horizon_speed_dps"):
        result[key] = share(out[key], 0.999)
    for key in ("latency_frames", "walk_latency_frames", "look_settle_s", "follow_settle_s", "follow_overshoot_m",
                "change_settle_s", "change_overshoot", "unasked_turn_dps2", "aim_drift_deg"):
        result[key] = max(out[key]) if out[key] else None
    for key in ("close", "pulled_in", "visible", "out_of_picture"):
        result[key] = mean(out[key])
    median = share(out["jitter_px"], 0.5)
    result["jitter_px"] = None if median is None else math.sqrt(median / math.log(2))
    squared = mean(out["view_acceleration_mps2"])
    result["view_acceleration_mps2"] = None if squared is None else math.sqrt(squared)
    return result


if __name__ == "__main__":
    print(json.dumps(measure(read(sys.argv[1]))))
