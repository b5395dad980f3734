using System.Net;
using System.Net.NetworkInformation;
using System.Net.Sockets;

namespace Uncial.Web.Network;

/// <summary>The names and addresses under which a machine is asked for on the shop's network.</summary>
/// <param name="Names">Host names in small letters, the one that is printed first.</param>
/// <param name="Addresses">Private addresses, those of the loopback last.</param>
internal sealed record NetworkNames(IReadOnlyList<string> Names, IReadOnlyList<IPAddress> Addresses)
{
    /// <summary>
    /// Address ranges of a network that is nobody else's (RFC 1918, 4193, 3927) and of the loopback: the authority vouches for nothing
    /// outside of them.
    /// </summary>
    public static IReadOnlyList<IPNetwork> PrivateRanges { get; } =
    [
        IPNetwork.Parse("10.0.0.0/8"),
        IPNetwork.Parse("172.16.0.0/12"),
        IPNetwork.Parse("192.168.0.0/16"),
        IPNetwork.Parse("169.254.0.0/16"),
        IPNetwork.Parse("127.0.0.0/8"),
        IPNetwork.Parse("fc00::/7"),
        IPNetwork.Parse("::1/128"),
    ];

    /// <summary>Whether an address lies on a private network or is this machine's own.</summary>
    public static bool IsPrivate(IPAddress? address)
    {
        if (address is { IsIPv4MappedToIPv6: true })
            address = address.MapToIPv4();
        return address is not null && PrivateRanges.Any(r => r.BaseAddress.AddressFamily == address.AddressFamily && r.Contains(address));
    }

    /// <summary>Whether a text can be the name of a host: letters, digits and hyphens between dots (RFC 1123).</summary>
    public static bool IsName(string name) =>
        name.Length is > 0 and <= 253 && !IPAddress.TryParse(name, out _) && name.Split('.').All(IsLabel);

    private static bool IsLabel(string label) =>
        label.Length is > 0 and <= 63
        && label.All(c => char.IsAsciiLetterOrDigit(c) || c == '-')
        && !label.StartsWith('-')
        && !label.EndsWith('-');

    /// <summary>The names and addresses of this machine.</summary>
    /// <param name="given">Names that the shop gave it beside its own.</param>
    public static NetworkNames OfThisMachine(IEnumerable<string> given)
    {
        var host = Dns.GetHostName().ToLowerInvariant();
        var own = IsName(host) ? new[] { host.Split('.')[0] + ".local", host } : [];
        var addresses = NetworkInterface
            .GetAllNetworkInterfaces()
            .Where(n => n.OperationalStatus == OperationalStatus.Up && n.NetworkInterfaceType != NetworkInterfaceType.Loopback)
            .SelectMany(n => n.GetIPProperties().UnicastAddresses)
            .Select(a => a.Address)
            .Where(IsPrivate)
            .OrderBy(a => a.AddressFamily != AddressFamily.InterNetwork)
            .ThenBy(a => a.ToString(), StringComparer.Ordinal)
            .ToList();
        return Of([.. given, .. own], addresses);
    }

    /// <summary>Names and addresses, with those of the loopback.</summary>
    public static NetworkNames Of(IEnumerable<string> names, IEnumerable<IPAddress> addresses) =>
        new(
            [.. names.Select(n => n.ToLowerInvariant()).Where(IsName).Append("localhost").Distinct(StringComparer.Ordinal)],
            [.. addresses.Append(IPAddress.Loopback).Append(IPAddress.IPv6Loopback).Distinct()]
        );
}
