interface Spot {
  lat: number
  lon: number
}

const median = (all: number[]) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)]

/** How many times as far off as the middle one of all spots a spot may be, and degrees within which all are near. */
const [times, near] = [20, 0.05]

/** The spots without strays: those that lie no further from the middle than most do, many times over. */
export function withoutStrays<T extends Spot>(spots: T[]): T[] {
  if (spots.length < 3) return spots
  const [lat, lon] = [median(spots.map((s) => s.lat)), median(spots.map((s) => s.lon))]
  const off = (s: Spot) => Math.hypot(s.lat - lat, (s.lon - lon) * Math.cos((lat * Math.PI) / 180))
  const most = Math.max(near, times * median(spots.map(off)))
  return spots.filter((s) => off(s) <= most)
}
