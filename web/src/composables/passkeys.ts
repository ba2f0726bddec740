import { ask, client } from '@/api/client'

/**
 * Does this browser have passkeys here? They are bound to a name: an address of digits has
 * none (WebAuthn, effective domain).
 */
export const passkeysHere =
  typeof PublicKeyCredential !== 'undefined' &&
  'parseRequestOptionsFromJSON' in PublicKeyCredential &&
  !/^[\d.]+$|:/.test(location.hostname)

/** What a passkey of this browser answers when it is asked to sign in. */
export async function askedPasskey() {
  const { options } = await ask(client.POST('/api/session/passkey/options'))
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(options as PublicKeyCredentialRequestOptionsJSON)
  return answered(() => navigator.credentials.get({ publicKey }))
}

/** A new passkey of this browser, as the server keeps it. */
export async function madePasskey(old: string) {
  const { options } = await ask(client.POST('/api/session/passkeys/options', { body: { old } }))
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(options as PublicKeyCredentialCreationOptionsJSON)
  return answered(() => navigator.credentials.create({ publicKey }))
}

/** The browser's answer as JSON. Its own errors are for programmers: the person hears what to do. */
async function answered(what: () => Promise<Credential | null>) {
  try {
    return ((await what()) as PublicKeyCredential).toJSON()
  } catch (e) {
    const there = (e as Error).name === 'InvalidStateError'
    throw new Error(
      there
        ? 'This device has a passkey for your account already.'
        : 'The browser gave no passkey: it was stopped, took too long, or there is none here. Try again, or use the password.',
      { cause: e },
    )
  }
}
