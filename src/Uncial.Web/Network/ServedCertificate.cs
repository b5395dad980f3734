using System.Net;
using System.Security.Cryptography.X509Certificates;
using Microsoft.Extensions.Primitives;
using Serilog;

namespace Uncial.Web.Network;

/// <summary>
/// The certificate that is shown to who connects. It is read from its file again when the file has changed, so that a renewed one serves
/// without a new start.
/// </summary>
public sealed class ServedCertificate(NetworkSettings settings, TimeProvider time) : IDisposable
{
    private static readonly TimeSpan LookedAt = TimeSpan.FromSeconds(5);
    private readonly Lock gate = new();
    private X509Certificate2? current;
    private (DateTime Certificate, DateTime Key) written;
    private DateTimeOffset nextLook;
    private IReadOnlyList<string> hosts = [];
    private CancellationTokenSource change = new();

    /// <summary>The certificate now.</summary>
    public X509Certificate2 Now()
    {
        lock (gate)
        {
            if (current is null || time.GetUtcNow() >= nextLook)
                Look();
            return current!;
        }
    }

    /// <summary>The hosts that it is for: names, and addresses as they stand in an address.</summary>
    public IReadOnlyList<string> Hosts()
    {
        Now();
        lock (gate)
            return hosts;
    }

    /// <summary>Fires when another certificate serves.</summary>
    public IChangeToken Changed()
    {
        lock (gate)
            return new CancellationChangeToken(change.Token);
    }

    /// <summary>When it ends.</summary>
    public DateTimeOffset EndsAt => new(Now().NotAfter.ToUniversalTime());

    private void Look()
    {
        nextLook = time.GetUtcNow() + LookedAt;
        var (file, key) = (settings.CertificateFile, settings.KeyFile);
        try
        {
            var at = (File.GetLastWriteTimeUtc(file), File.GetLastWriteTimeUtc(key));
            if (current is not null && at == written)
                return;
            // A certificate goes out with the others of its chain, which stand below it in the file.
            var read = X509Certificate2.CreateFromPemFile(file, key);
            (current, written) = (read, at);
            var (names, addresses) = ShopAuthority.For(read);
            hosts = [.. names, .. addresses.Select(HostOf)];
            var before = change;
            change = new();
            before.Cancel();
        }
        catch (Exception fault) when (current is not null && fault is IOException or System.Security.Cryptography.CryptographicException)
        {
            // A file that is being written: the one before serves on.
            Log.Warning("The certificate {File} cannot be read: {Why}", file, fault.Message);
        }
    }

    /// <summary>The others of the chain, for a certificate that another authority made.</summary>
    public X509Certificate2Collection Chain()
    {
        X509Certificate2Collection all = [];
        all.ImportFromPemFile(settings.CertificateFile);
        return all;
    }

    /// <summary>An address as it stands in the address of a page.</summary>
    public static string HostOf(IPAddress address)
    {
        ArgumentNullException.ThrowIfNull(address);
        return address.AddressFamily == System.Net.Sockets.AddressFamily.InterNetworkV6 ? $"[{address}]" : address.ToString();
    }

    public void Dispose()
    {
        current?.Dispose();
        change.Dispose();
    }
}
