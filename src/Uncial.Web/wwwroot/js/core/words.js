// The words of the scripts, which come with the page from its resource files (Text/Script.resx).
let all;

// A text by its key, with {0}, {1} put in.
export function say(key, ...given) {
  all ??= JSON.parse(document.body.dataset.words ?? '{}');
  return (all[key] ?? key).replace(/\{(\d)\}/g, (_, n) => given[n] ?? '');
}
