/** A share of a colour in white, both #RRGGBB: as the server makes a tint of the house's colour. */
export function tintOf(accent: string, share = 0.1): string {
  const channel = (at: number) => {
    const v = Number.parseInt(accent.slice(at, at + 2), 16)
    return Math.round((Number.isNaN(v) ? 0 : v) * share + 255 * (1 - share))
      .toString(16)
      .padStart(2, '0')
  }
  return `#${channel(1)}${channel(3)}${channel(5)}`.toUpperCase()
}

/** How far apart a colour's channels are, and how light it is, both from 0 to 1. */
function look(r: number, g: number, b: number) {
  const most = Math.max(r, g, b)
  return { strong: most ? (most - Math.min(r, g, b)) / most : 0, light: (0.299 * r + 0.587 * g + 0.114 * b) / 255 }
}

/**
 * The colour that a logo is remembered by: the commonest of its strong ones, neither nearly white nor nearly black; else the commonest that
 * is not paper. Pixels are RGBA, as a canvas gives them.
 */
export function mainColour(pixels: Uint8ClampedArray): string | undefined {
  const found = new Map<number, { n: number; sum: [number, number, number]; strong: boolean }>()
  for (let i = 0; i + 3 < pixels.length; i += 4) {
    const [r, g, b, a] = [pixels[i]!, pixels[i + 1]!, pixels[i + 2]!, pixels[i + 3]!]
    const { strong, light } = look(r, g, b)
    if (a < 128 || light > 0.93) continue
    const key = ((r >> 4) << 8) | ((g >> 4) << 4) | (b >> 4)
    const c = found.get(key) ?? { n: 0, sum: [0, 0, 0], strong: strong > 0.2 && light > 0.06 }
    c.n++
    c.sum = [c.sum[0] + r, c.sum[1] + g, c.sum[2] + b]
    found.set(key, c)
  }
  const all = [...found.values()].sort((x, y) => Number(y.strong) - Number(x.strong) || y.n - x.n)
  const best = all[0]
  if (!best) return undefined
  return `#${best.sum
    .map((s) =>
      Math.round(s / best.n)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`.toUpperCase()
}

/** The main colour of a picture at an address. */
export async function colourOfPicture(address: string): Promise<string | undefined> {
  const img = new Image()
  img.src = address
  await img.decode()
  const canvas = document.createElement('canvas')
  const most = 200
  const scale = Math.min(1, most / Math.max(img.naturalWidth, img.naturalHeight, 1))
  canvas.width = Math.max(1, Math.round((img.naturalWidth || most) * scale))
  canvas.height = Math.max(1, Math.round((img.naturalHeight || most) * scale))
  const drawing = canvas.getContext('2d')
  if (!drawing) return undefined
  drawing.drawImage(img, 0, 0, canvas.width, canvas.height)
  return mainColour(drawing.getImageData(0, 0, canvas.width, canvas.height).data)
}
