using Microsoft.Extensions.Caching.Memory;

namespace Uncial.Data.Storage;

/// <summary>
/// Parsed plan documents. Plans are never changed, so the text is the key and an entry is never stale; the least used go when it is full.
/// </summary>
internal static class PlanDocuments
{
    private const int Kept = 1000;

    private static readonly MemoryCache Parsed = new(new MemoryCacheOptions { SizeLimit = Kept });

    public static PlanDocument Read(string document) => Parsed.GetOrCreate(document, entry =>
        {
            entry.Size = 1;
            return StoredJson.Read<PlanDocument>(document);
        })!;
}
