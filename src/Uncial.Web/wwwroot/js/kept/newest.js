// Which copy of a draft is newer: that of this browser, or that of the server, which another screen may have written.

// local: { of, at, unit, by, values } or null; remote: values with the unit under '' and who wrote them under '#', or null.
export function newest(local, remote, remoteAt) {
  if (!local) return remote;
  const mine = { ...local.values, '': local.unit };
  if (!remote) return mine;
  // What this browser has sent itself is older than what it keeps, however late the server wrote it down.
  const [browser, sent] = (remote['#'] ?? '').split(':');
  const [me, kept] = (local.by ?? '').split(':');
  if (me && browser === me) return Number(kept) >= Number(sent) ? mine : remote;
  return local.at >= remoteAt ? mine : remote;
}
