using System.Formats.Asn1;
using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace Uncial.Web.Network;

/// <summary>What the authority did, and what there is to say of it.</summary>
/// <param name="IsNewAuthority">An authority was made: every tablet has to trust it.</param>
/// <param name="IsNewCertificate">A certificate was made.</param>
/// <param name="Fingerprint">SHA-256 fingerprint of the authority, as tablets show it.</param>
/// <param name="EndsAt">When the certificate ends.</param>
/// <param name="Strange">A name that the authority does not vouch for, so that nothing was made; null otherwise.</param>
internal sealed record Certified(
    bool IsNewAuthority,
    bool IsNewCertificate,
    string Fingerprint,
    DateTimeOffset EndsAt,
    string? Strange = null
);

/// <summary>
/// The certificate authority of one shop, and the certificate that it makes for the shop's own machine (RFC 5280; ECDSA on P-256). It is
/// run by a process of its own: what serves never reads the authority's key.
/// </summary>
internal sealed class ShopAuthority(CertificateFiles files, TimeProvider time)
{
    /// <summary>The authority lasts so long.</summary>
    private const int AuthorityYears = 10;

    /// <summary>A certificate lasts so long.</summary>
    private static readonly TimeSpan Lasts = TimeSpan.FromDays(90);

    /// <summary>A certificate is made anew so long before it ends.</summary>
    private static readonly TimeSpan RenewedBefore = TimeSpan.FromDays(30);

    /// <summary>A clock that was set back by so much still finds it valid.</summary>
    private static readonly TimeSpan Backdated = TimeSpan.FromDays(3);

    private const string NameConstraintsOid = "2.5.29.30";
    private const string ServerAuthOid = "1.3.6.1.5.5.7.3.1";

    /// <summary>Makes what is missing, ends soon, or lacks a name or an address.</summary>
    /// <param name="wanted">The names and addresses of the machine.</param>
    /// <param name="anew">Make another authority.</param>
    public Certified Certify(NetworkNames wanted, bool anew = false)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        files.Make();
        var now = time.GetUtcNow();
        var isNew = anew || !File.Exists(files.AuthorityKey) || !File.Exists(files.Authority);
        if (!isNew)
        {
            using var before = X509CertificateLoader.LoadCertificateFromFile(files.Authority);
            // A certificate of it would outlive it.
            isNew = before.NotAfter.ToUniversalTime() < (now + Lasts).UtcDateTime;
            if (!isNew && wanted.Names.FirstOrDefault(n => !NamesOf(before).Contains(n, StringComparer.Ordinal)) is { } strange)
                return new(false, false, Fingerprint(before), new(before.NotAfter.ToUniversalTime()), strange);
        }
        if (isNew)
            MakeAuthority(wanted, now);
        using var key = ECDsa.Create();
        key.ImportFromPem(File.ReadAllText(files.AuthorityKey));
        using var certificate = X509CertificateLoader.LoadCertificateFromFile(files.Authority);
        using var authority = certificate.CopyWithPrivateKey(key);
        var ends = isNew ? null : EndOfServer(authority, wanted, now);
        return new(isNew, ends is null, Fingerprint(certificate), ends ?? MakeServer(authority, wanted, now));
    }

    /// <summary>SHA-256 of a certificate in pairs, as tablets show it.</summary>
    public static string Fingerprint(X509Certificate2 certificate)
    {
        ArgumentNullException.ThrowIfNull(certificate);
        return string.Join(':', certificate.GetCertHash(HashAlgorithmName.SHA256).Select(b => b.ToString("X2", null)));
    }

    /// <summary>Names and addresses that a certificate is for.</summary>
    public static (IReadOnlyList<string> Names, IReadOnlyList<IPAddress> Addresses) For(X509Certificate2 certificate)
    {
        ArgumentNullException.ThrowIfNull(certificate);
        return certificate.Extensions.OfType<X509SubjectAlternativeNameExtension>().FirstOrDefault() is { } names
            ? ([.. names.EnumerateDnsNames()], [.. names.EnumerateIPAddresses()])
            : ([], []);
    }

    /// <summary>When the certificate that there is ends; null where it does not serve any more.</summary>
    private DateTimeOffset? EndOfServer(X509Certificate2 authority, NetworkNames wanted, DateTimeOffset now)
    {
        if (!File.Exists(files.Server))
            return null;
        using var server = X509Certificate2.CreateFromPemFile(files.Server);
        var (names, addresses) = For(server);
        DateTimeOffset ends = new(server.NotAfter.ToUniversalTime());
        var holds =
            server.IssuerName.RawData.AsSpan().SequenceEqual(authority.SubjectName.RawData)
            && KeyOf(server) == KeyOf(authority)
            && ends - now > RenewedBefore
            && server.NotBefore.ToUniversalTime() <= now.UtcDateTime
            && wanted.Names.All(n => names.Contains(n, StringComparer.Ordinal))
            && wanted.Addresses.All(addresses.Contains);
        return holds ? ends : null;
    }

    /// <summary>Key of the authority behind a certificate.</summary>
    private static string? KeyOf(X509Certificate2 certificate) =>
        certificate.Extensions.OfType<X509AuthorityKeyIdentifierExtension>().FirstOrDefault()?.KeyIdentifier is { } of
            ? Convert.ToHexString(of.Span)
            : certificate.Extensions.OfType<X509SubjectKeyIdentifierExtension>().FirstOrDefault()?.SubjectKeyIdentifier;

    private void MakeAuthority(NetworkNames wanted, DateTimeOffset now)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        // The year and a number tell two authorities of one shop apart on a tablet.
        var name = new X500DistinguishedNameBuilder();
        name.AddCommonName($"Uncial, {wanted.Names[0]}, {now.Year} {RandomNumberGenerator.GetInt32(1000, 10000)}");
        var request = new CertificateRequest(name.Build(), key, HashAlgorithmName.SHA256);
        // It makes certificates of machines, no further authorities.
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(true, true, 0, critical: true));
        request.CertificateExtensions.Add(
            new X509KeyUsageExtension(X509KeyUsageFlags.KeyCertSign | X509KeyUsageFlags.CrlSign, critical: true)
        );
        request.CertificateExtensions.Add(new X509SubjectKeyIdentifierExtension(request.PublicKey, critical: false));
        request.CertificateExtensions.Add(new X509Extension(NameConstraintsOid, NameConstraints(wanted.Names), critical: true));
        using var made = request.CreateSelfSigned(now - Backdated, now.AddYears(AuthorityYears));
        // The key last: a certificate without its key is made anew.
        File.Delete(files.AuthorityKey);
        CertificateFiles.Write(files.Authority, made.ExportCertificatePem(), secret: false);
        CertificateFiles.Write(files.AuthorityKey, key.ExportPkcs8PrivateKeyPem(), secret: true);
    }

    private DateTimeOffset MakeServer(X509Certificate2 authority, NetworkNames wanted, DateTimeOffset now)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var name = new X500DistinguishedNameBuilder();
        name.AddCommonName(wanted.Names[0].Length <= 64 ? wanted.Names[0] : "Uncial");
        var request = new CertificateRequest(name.Build(), key, HashAlgorithmName.SHA256);
        var names = new SubjectAlternativeNameBuilder();
        foreach (var host in wanted.Names)
            names.AddDnsName(host);
        foreach (var address in wanted.Addresses)
            names.AddIpAddress(address);
        request.CertificateExtensions.Add(names.Build());
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(false, false, 0, critical: true));
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.DigitalSignature, critical: true));
        request.CertificateExtensions.Add(new X509EnhancedKeyUsageExtension([new Oid(ServerAuthOid)], critical: false));
        request.CertificateExtensions.Add(new X509SubjectKeyIdentifierExtension(request.PublicKey, critical: false));
        request.CertificateExtensions.Add(
            X509AuthorityKeyIdentifierExtension.CreateFromCertificate(authority, includeKeyIdentifier: true, includeIssuerAndSerial: false)
        );
        var ends = now + Lasts;
        var serial = RandomNumberGenerator.GetBytes(16);
        serial[0] &= 0x7f;
        DateTimeOffset first = new(authority.NotBefore.ToUniversalTime());
        var begins = now - Backdated < first ? first : now - Backdated;
        using var made = request.Create(authority, begins, ends, serial);
        CertificateFiles.Write(files.Server, made.ExportCertificatePem() + "\n" + key.ExportPkcs8PrivateKeyPem() + "\n", secret: true);
        return ends;
    }

    /// <summary>What the authority may vouch for: its names with what lies below them, and addresses of private networks.</summary>
    private static byte[] NameConstraints(IReadOnlyList<string> names)
    {
        var writer = new AsnWriter(AsnEncodingRules.DER);
        using (writer.PushSequence())
        using (writer.PushSequence(new(TagClass.ContextSpecific, 0)))
        {
            foreach (var name in names)
                using (writer.PushSequence())
                    writer.WriteCharacterString(UniversalTagNumber.IA5String, name, new(TagClass.ContextSpecific, 2));
            foreach (var range in NetworkNames.PrivateRanges)
                using (writer.PushSequence())
                    writer.WriteOctetString([.. range.BaseAddress.GetAddressBytes(), .. MaskOf(range)], new(TagClass.ContextSpecific, 7));
        }
        return writer.Encode();
    }

    private static byte[] MaskOf(IPNetwork range)
    {
        var mask = new byte[range.BaseAddress.GetAddressBytes().Length];
        for (var bit = 0; bit < range.PrefixLength; bit++)
            mask[bit / 8] |= (byte)(0x80 >> (bit % 8));
        return mask;
    }

    /// <summary>The names that an authority may vouch for.</summary>
    internal static IReadOnlyList<string> NamesOf(X509Certificate2 authority)
    {
        var constraints = authority.Extensions.FirstOrDefault(e => e.Oid?.Value == NameConstraintsOid);
        if (constraints is null)
            return [];
        List<string> names = [];
        var permitted = new AsnReader(constraints.RawData, AsnEncodingRules.DER)
            .ReadSequence()
            .ReadSequence(new(TagClass.ContextSpecific, 0));
        while (permitted.HasData)
        {
            var one = permitted.ReadSequence();
            if (one.PeekTag().TagValue == 2)
                names.Add(one.ReadCharacterString(UniversalTagNumber.IA5String, new(TagClass.ContextSpecific, 2)));
        }
        return names;
    }
}
