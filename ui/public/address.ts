/** A part of the page's path as it was meant; one that cannot be read stays as it is. */
export function pathPart(n: number): string {
  const part = location.pathname.split('/')[n] ?? ''
  try {
    return decodeURIComponent(part)
  } catch {
    return part
  }
}
