using System.Net;

namespace Uncial.Web.Network;

/// <summary>How the shop is served, as ./start or a service unit says in the environment.</summary>
public sealed class NetworkSettings
{
    /// <summary>Serve the shop's network over TLS.</summary>
    public bool Lan { get; init; }

    /// <summary>Port of TLS.</summary>
    public int Port { get; init; } = 5443;

    /// <summary>Port without TLS, for the one page that says how to trust the shop; 0 for none.</summary>
    public int PlainPort { get; init; }

    /// <summary>Folder of the shop's own certificates.</summary>
    public string Certificates { get; init; } = "";

    /// <summary>A certificate that the shop got elsewhere; empty for one of its own authority.</summary>
    public string Certificate { get; init; } = "";

    /// <summary>The key of that certificate.</summary>
    public string Key { get; init; } = "";

    /// <summary>Address of the shop unless its settings say another: what is printed on tags and certificates.</summary>
    public string Address { get; init; } = "";

    /// <summary>Addresses of the proxies that are believed when they say who asks, divided by spaces.</summary>
    public string Proxies { get; init; } = "";

    /// <summary>Hosts that may be asked for beside those of the certificate, divided by spaces.</summary>
    public string Names { get; init; } = "";

    /// <summary>The files of the shop's own certificates.</summary>
    public CertificateFiles Files => new(Certificates);

    /// <summary>The shop got its certificate elsewhere.</summary>
    public bool HasOwnCertificate => Certificate.Length > 0;

    public string CertificateFile => HasOwnCertificate ? Certificate : Files.Server;
    public string KeyFile => HasOwnCertificate ? Key : Files.Server;

    public IReadOnlyList<IPAddress> KnownProxies =>
        [.. Split(Proxies).Select(p => IPAddress.TryParse(p, out var a) ? a : null).OfType<IPAddress>()];

    public IReadOnlyList<string> GivenNames => Split(Names);

    private static string[] Split(string text) => text.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries);
}
