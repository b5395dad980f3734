using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Components;

namespace Uncial.Web.Hosting;

/// <summary>
/// Tells the browser under which name, with its fingerprint, a module of JavaScript is found that another module imports, so that it too
/// is fetched once for each version. It stands in every page; the content policy allows it by its hash.
/// </summary>
internal sealed class ScriptMap
{
    private ScriptMap(string json) =>
        (Json, Hash) = (json, "'sha256-" + Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(json))) + "'");

    /// <summary>The import map, as it stands in the page to the letter.</summary>
    public string Json { get; }

    /// <summary>Its hash as the content policy spells it.</summary>
    public string Hash { get; }

    /// <summary>Reads the scripts that ship from what the pages are served with.</summary>
    /// <param name="served">Everything that is served; pages know their static assets.</param>
    /// <exception cref="InvalidOperationException">No page knows static assets.</exception>
    public static ScriptMap Of(EndpointDataSource served)
    {
        ArgumentNullException.ThrowIfNull(served);
        var assets = served.Endpoints.Select(e => e.Metadata.GetMetadata<ResourceAssetCollection>()).FirstOrDefault(a => a is not null)
            ?? throw new InvalidOperationException("No page knows static assets: MapRazorPages().WithStaticAssets() is missing.");
        var imports = assets
            .Select(a => (Plain: a.Properties?.FirstOrDefault(p => p.Name == "label")?.Value, a.Url))
            .Where(a => a.Plain?.EndsWith(".js", StringComparison.Ordinal) == true)
            .OrderBy(a => a.Plain, StringComparer.Ordinal)
            .ToDictionary(a => "/" + a.Plain, a => "/" + a.Url);
        return new(JsonSerializer.Serialize(new { imports }));
    }
}
