import { Problem } from '@/api/client'

/** Saves findings as a table through the browser's own download. */
export async function downloadTable(findings: string[]): Promise<void> {
  const token = /(?:^|; )XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1] ?? ''
  const response = await fetch('/api/findings/table', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-XSRF-TOKEN': decodeURIComponent(token) },
    body: JSON.stringify({ findings }),
  })
  if (!response.ok)
    throw new Problem(response.status, 'The table could not be made; look at the list again.')
  const link = document.createElement('a')
  link.href = URL.createObjectURL(await response.blob())
  link.download = 'findings.csv'
  link.click()
  URL.revokeObjectURL(link.href)
}
