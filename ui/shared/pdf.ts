import { getDocument, GlobalWorkerOptions, PDFWorker, type PDFDocumentProxy } from 'pdfjs-dist'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'

GlobalWorkerOptions.workerSrc = worker
/** One worker for all proofs: starting one for each would take longer than painting the page. */
let shared: PDFWorker | undefined

/** Opens a PDF given as base64. */
export const openPdf = (base64: string) => openBytes(Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)))

export async function openBytes(data: Uint8Array): Promise<PDFDocumentProxy> {
  shared ??= new PDFWorker()
  // Letters are painted as the outlines they are: loading fonts into the browser for each proof takes longer.
  return getDocument({ data, enableXfa: false, disableFontFace: true, worker: shared }).promise
}

/** Paints a page off screen and puts it on the canvas whole, so that a repaint does not flicker. */
export async function paintPage(pdf: PDFDocumentProxy, number: number, canvas: HTMLCanvasElement, width: number) {
  const page = await pdf.getPage(number)
  const ratio = Math.min(window.devicePixelRatio || 1, 2)
  const viewport = page.getViewport({ scale: (width / page.getViewport({ scale: 1 }).width) * ratio })
  const draft = document.createElement('canvas')
  draft.width = Math.round(viewport.width)
  draft.height = Math.round(viewport.height)
  await page.render({ canvas: draft, viewport }).promise
  canvas.width = draft.width
  canvas.height = draft.height
  canvas.getContext('2d')?.drawImage(draft, 0, 0)
}
