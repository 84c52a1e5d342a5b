import { fingerprint, makeCertificate, ownNames } from '../listen';
import type { Context } from './context';

/** Makes a certificate for this machine as it is called and addressed now. */
export async function certificateCommand(context: Context, names: string[]): Promise<void> {
  const { authority, names: signed } = await makeCertificate(context.database.folder.dir, names, ownNames());
  console.log(`made a certificate for ${signed.join(', ')}`);
  console.log(`it lies in ${context.database.folder.dir}; serve --listen takes it from there`);
  console.log('each phone has to trust authority.pem once: docs/phone.md says how');
  console.log(`its SHA-256 fingerprint, to be compared on the phone before it is trusted:\n${fingerprint(authority)}`);
}
