/** Message-ID of one recipient's copy (RFC 5322 section 3.6.4): the same at every try, so that a server can tell. */
export const messageIdOf = (recipientId: number, key: string): string =>
  `<${recipientId}.${key}@ready-lantern.example>`;

/** Name of the file in which the mail stand-in keeps the message of an id. */
export const keptFileName = (messageId: string): string =>
  `${messageId.replace(/[<>]/g, '').replace(/[^a-zA-Z0-9.@-]/g, '_')}.eml`;
