using Uncial.Data;

namespace Uncial.Web;

/// <summary>Fetches the shop and its parts, with all facts, for the time of one request.</summary>
public sealed class ShopFile(UncialDb db, ShopCache cache)
{
    private ShopNow? shop;

    /// <summary>The shop with its gauges and their latest zero checks, for reading.</summary>
    public async Task<Shop> ShopAsync(CancellationToken cancel = default) => (await NowAsync(cancel)).Shop;

    /// <summary>The same for the pages of the workshop: to be changed where the request changes something.</summary>
    /// <param name="request">The request.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<Shop> ShopAsync(HttpRequest request, CancellationToken cancel) =>
        (shop ??= HttpMethods.IsGet(request.Method) ? await cache.ShopAsync(db, cancel) : new(await db.ShopAsync(cancel), null, null)).Shop;

    /// <summary>Fetches the shop anew when it is asked for next: what was changed here was refused.</summary>
    public void Forget() => shop = null;

    /// <summary>The answer to a question about what is recorded at the lathes (see <see cref="ShopCache.AnswerAsync"/>).</summary>
    /// <param name="question">Names the question with everything that it depends on besides settings and records.</param>
    /// <param name="ask">Asks the database.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<T> AnswerAsync<T>(string question, Func<UncialDb, Task<T>> ask, CancellationToken cancel) =>
        await cache.AnswerAsync(await NowAsync(cancel), question, () => ask(db));

    private async Task<ShopNow> NowAsync(CancellationToken cancel) => shop ??= await cache.ShopAsync(db, cancel);

    /// <summary>
    /// A part by its tag with every fact of its surfaces, or null. One that was here more than once is the one of its last visit, unless
    /// another is asked for.
    /// </summary>
    public async Task<Part?> PartAsync(string tag, CancellationToken cancel, int? visit = null) =>
        visit is { } one ? await db.PartAsync(tag, one, cancel) : await db.PartAsync(tag, cancel);

    /// <summary>Earlier visits of a part, the first one first, with their facts.</summary>
    public async Task<IReadOnlyList<Part>> EarlierAsync(Part part, CancellationToken cancel) =>
        part.Visit == 1 ? [] : await db.EarlierVisitsAsync(part, cancel);

    /// <summary>The other parts of the same job, with their facts, for the pair of an axle.</summary>
    public async Task<IReadOnlyList<Part>> SiblingsAsync(Part part, CancellationToken cancel) => await db.SiblingsAsync(part, cancel);
}
