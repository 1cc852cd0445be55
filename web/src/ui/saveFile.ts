/** A name as files like it. */
export const slug = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'plan'

/** Hands content to the browser as a file to keep. */
export function saveFile(name: string, type: string, content: BlobPart): void {
  const url = URL.createObjectURL(new Blob([content], { type }))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** Lets the maker pick a file and gives its text; null when none was picked. */
export function pickText(accept: string): Promise<string | null> {
  return new Promise((resolve) => {
    const input = document.createElement('input')
    input.type = 'file'
    input.accept = accept
    input.onchange = () => void (input.files?.[0] ? input.files[0].text().then(resolve) : resolve(null))
    input.oncancel = () => resolve(null)
    input.click()
  })
}
