using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography.X509Certificates;

namespace Uncial.Web.Network;

/// <summary>What somebody needs to trust the shop on a tablet.</summary>
public sealed class TrustFacts(NetworkSettings settings, ServedCertificate certificate)
{
    /// <summary>The one page that is served without TLS.</summary>
    public const string Page = "/trust";

    /// <summary>The certificate of the authority, as a file.</summary>
    public const string File = "/authority.crt";

    /// <summary>The shop is served on its network.</summary>
    public bool IsOnNetwork => settings.Lan;

    /// <summary>The shop has an authority of its own, which a tablet has to trust.</summary>
    public bool HasAuthority => settings is { Lan: true, HasOwnCertificate: false };

    /// <summary>Fingerprint of the authority, SHA-256.</summary>
    public string Fingerprint()
    {
        using var authority = Authority();
        return ShopAuthority.Fingerprint(authority);
    }

    /// <summary>The authority's certificate in DER, as tablets take it.</summary>
    public byte[] Der()
    {
        using var authority = Authority();
        return authority.RawData;
    }

    /// <summary>
    /// Addresses of the page without TLS: numbers, for a name that was asked for over TLS once is not asked for without it any more.
    /// </summary>
    public IReadOnlyList<string> PlainAddresses() =>
        settings.PlainPort == 0
            ? []
            :
            [
                .. ShopAuthority
                    .For(certificate.Now())
                    .Addresses.Where(a => a.AddressFamily == AddressFamily.InterNetwork && !IPAddress.IsLoopback(a))
                    .Select(a => $"http://{a}:{settings.PlainPort}"),
            ];

    /// <summary>When the certificate ends.</summary>
    public DateTimeOffset EndsAt => certificate.EndsAt;

    private X509Certificate2 Authority() => X509CertificateLoader.LoadCertificateFromFile(settings.Files.Authority);

    /// <summary>Without TLS there is the page that says how to trust the shop, with its styles and the file; nothing else.</summary>
    public static Task PlainAsync(HttpContext context, int plainPort, RequestDelegate next)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(next);
        if (context.Connection.LocalPort != plainPort || context.Request.IsHttps)
            return next(context);
        var request = context.Request;
        if (request.Path == "/")
            request.Path = Page;
        var isServed =
            HttpMethods.IsGet(request.Method)
            && (
                request.Path == Page
                || request.Path == File
                || request.Path.StartsWithSegments("/css", StringComparison.Ordinal)
                || request.Path.StartsWithSegments("/lib", StringComparison.Ordinal)
            );
        if (isServed)
            return next(context);
        context.Response.Redirect("/");
        return Task.CompletedTask;
    }
}
