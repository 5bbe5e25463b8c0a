export const dynamic = 'force-dynamic';

/** What is said to a request whose address cannot be read, or that sends a form where none is taken. */
const unreadable = () =>
  Response.json({ message: 'This address cannot be read, or takes no form.' }, { status: 400 });

export {
  unreadable as GET,
  unreadable as POST,
  unreadable as PUT,
  unreadable as DELETE,
  unreadable as PATCH,
  unreadable as HEAD,
};
