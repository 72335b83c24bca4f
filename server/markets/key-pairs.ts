// The key pair by which a market of folders may know a seller (RFC 4252, 7: public key authentication). The private half is
// kept like any other key; the public half, the line that OpenSSH writes, is what a market is given.
import ssh2 from 'ssh2';
import { AppError } from '../http';
import { say } from '@basileus/core/text';

const { utils } = ssh2;

/** Whether a key is the private half of a pair, not a password. */
export const isPrivateKey = (key: string): boolean => key.startsWith('-----BEGIN ');

/**
 * The public half of a private key as one line, such as `ssh-ed25519 AAAA…`; null for a password.
 * @throws AppError where it cannot be read, or asks for a passphrase.
 */
export function readPublicKey(key: string): string | null {
  if (!isPrivateKey(key)) return null;
  const parsed = utils.parseKey(key);
  if (parsed instanceof Error) {
    const isLocked = /passphrase|encrypted/i.test(parsed.message);
    throw new AppError(
      'bad-input',
      isLocked ? say`This private key asks for a passphrase.` : say`This private key cannot be read.`,
      {
        field: 'secret',
        remedy: isLocked
          ? say`Bring one without a passphrase, or let a new pair be made here.`
          : say`Bring the whole file, from its first line of dashes to its last, as OpenSSH or PEM; or let a new pair be made here.`,
      },
    );
  }
  if (!parsed.isPrivateKey())
    throw new AppError('bad-input', say`This is the public half of a pair.`, {
      field: 'secret',
      remedy: say`Give that to the market, and bring the private half here.`,
    });
  return `${parsed.type} ${parsed.getPublicSSH().toString('base64')}`;
}

/** A new private key of Ed25519 (RFC 8709). The library makes one in some four hundred that it cannot read itself. */
export function makePrivateKey(): string {
  for (;;) {
    const key = utils.generateKeyPairSync('ed25519').private;
    if (!(utils.parseKey(key) instanceof Error)) return key;
  }
}
