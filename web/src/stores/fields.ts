import type { ConnectionDraft, StoreView } from '@/api/types'

/** Where a store is, as it is filled in. */
export interface ConnectionFields {
  kind: ConnectionDraft['kind']
  endpoint: string
  region: string
  bucket: string
  prefix: string
  pathStyle: boolean
  ca: string
  keyId: string
  host: string
  port: number | string
  user: string
  folder: string
  hostKeys: string
  bytesPerSecond: number
}

/** What opens it. */
export interface SecretFields {
  secret: string
  token: string
  password: string
  privateKey: string
  passphrase: string
}

export const noSecret = (): SecretFields => ({
  secret: '',
  token: '',
  password: '',
  privateKey: '',
  passphrase: '',
})

/** As it is kept; empty where it is not known yet. */
export function fieldsOf(s: StoreView): ConnectionFields {
  const was = s.connection
  return {
    kind: s.reached === 'sftp' ? 'sftp' : 'object-store',
    endpoint: was?.endpoint ?? '',
    region: was?.region ?? '',
    bucket: was?.bucket ?? '',
    prefix: was?.prefix ?? '',
    pathStyle: was?.pathStyle ?? true,
    ca: was?.ca ?? '',
    keyId: was?.keyId ?? '',
    host: was?.host ?? '',
    port: was?.port ?? 22,
    user: was?.user ?? '',
    folder: was?.folder ?? '',
    hostKeys: was?.hostKeys ?? '',
    bytesPerSecond: was?.bytesPerSecond ?? 0,
  }
}

/** Whether enough is filled in to try it. */
export function filledIn(f: ConnectionFields): boolean {
  const needed =
    f.kind === 'object-store'
      ? [f.endpoint, f.bucket, f.keyId]
      : [f.host, f.user, f.folder, f.hostKeys]
  return needed.every((text) => text.trim())
}

/** What the server is told. */
export function draftOf(f: ConnectionFields, secret: SecretFields): ConnectionDraft {
  return {
    ...f,
    port: Number(f.port) || 22,
    bytesPerSecond: f.bytesPerSecond || undefined,
    ca: f.ca.trim() || undefined,
    secret: Object.values(secret).some((v) => v) ? { ...secret } : undefined,
  }
}
