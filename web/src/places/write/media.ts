import { api, call } from '@/contract/client'

/** Puts a file on the media shelf and tells how items refer to it. */
export function keepMedia(file: File) {
  return call(
    api.POST('/media', {
      params: { query: { file: file.name } },
      body: file as unknown as string, // the contract says binary; the body is the file itself
      bodySerializer: (body) => body,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )
}
