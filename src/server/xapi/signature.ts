import { compactVerify, decodeProtectedHeader, importX509 } from 'jose';
import * as yup from 'yup';
import { parseJson } from '@/core/formats/json';
import { sameStatement } from '@/core/formats/xapi/compare';
import { readStatement, type Statement } from '@/core/formats/xapi/statement';

/** What an attachment is used for that signs its statement (xAPI 1.0.3, part two, 2.6). */
export const SIGNATURE = 'http://adlnet.gov/expapi/attachments/signature';

const headerSchema = yup.object({
  alg: yup.string().oneOf(['RS256', 'RS384', 'RS512']).required(),
  x5c: yup.array(yup.string().max(20_000).required()).max(10),
});

/**
 * Why a signature does not sign a statement; null if it does. It is a JWS in compact form by RS256, RS384 or RS512
 * whose payload is the statement; with a certificate in its header (`x5c`) the signature itself is checked by it. Whose
 * the certificate is, is nobody's word but the sender's.
 */
export async function signatureFault(statement: Statement, jws: Uint8Array): Promise<string | null> {
  const text = new TextDecoder().decode(jws).trim();
  try {
    const header = headerSchema.validateSync(decodeProtectedHeader(text));
    const payload = parseJson(Buffer.from(text.split('.')[1] ?? '', 'base64url').toString('utf8'));
    const signed = payload.ok ? readStatement(payload.value) : payload;
    if (!signed.ok) return 'the signature signs no statement';
    if (!sameStatement(signed.value, statement)) return 'the signature signs another statement';
    const [certificate] = header.x5c ?? [];
    if (certificate === undefined) return null;
    const pem = `-----BEGIN CERTIFICATE-----\n${certificate}\n-----END CERTIFICATE-----`;
    await compactVerify(text, await importX509(pem, header.alg));
    return null;
  } catch {
    return 'the signature is no JWS by RS256, RS384 or RS512 that holds';
  }
}
