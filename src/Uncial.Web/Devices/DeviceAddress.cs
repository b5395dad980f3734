using System.Net;

namespace Uncial.Web.Devices;

/// <summary>
/// Where gauges and read-outs may be: on this machine or in the shop's own network, never link-local and never out in the world.
/// </summary>
internal static class DeviceAddress
{
    /// <summary>Whether a device is listened to there: an IPv4 address in dotted form of a private range or of this machine.</summary>
    public static bool Allows(string host) =>
        host.Count(c => c == '.') == 3
        && IPAddress.TryParse(host, out var address)
        && address.GetAddressBytes() is [var a, var b, _, _]
        && (a == 127 || a == 10 || (a == 172 && b is >= 16 and <= 31) || (a == 192 && b == 168))
        && address.ToString() == host;
}
