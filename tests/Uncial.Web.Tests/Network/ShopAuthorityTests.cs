using System.Net;
using System.Security.Cryptography.X509Certificates;
using Microsoft.Extensions.Time.Testing;
using Uncial.Web.Network;

namespace Uncial.Web.Tests;

/// <summary>The certificates of a shop: what they vouch for, how long, and when they are made anew.</summary>
public sealed class ShopAuthorityTests : IDisposable
{
    private readonly FakeTimeProvider time = new(new(2026, 12, 1, 8, 0, 0, TimeSpan.Zero));
    private readonly CertificateFiles files = new(Directory.CreateTempSubdirectory("uncial-tls").FullName);

    private static readonly NetworkNames Shop = NetworkNames.Of(["brakes.local"], [IPAddress.Parse("192.168.7.5")]);

    private Certified Certify(NetworkNames names, bool anew = false) => new ShopAuthority(files, time).Certify(names, anew);

    private X509Certificate2 Server() => X509Certificate2.CreateFromPemFile(files.Server);

    private X509Certificate2 Authority() => X509CertificateLoader.LoadCertificateFromFile(files.Authority);

    public void Dispose() => Directory.Delete(files.Folder, recursive: true);

    /// <summary>Whether a tablet that trusts the authority takes a certificate.</summary>
    private bool Trusts(X509Certificate2 certificate, X509Certificate2 authority)
    {
        using var chain = new X509Chain();
        chain.ChainPolicy.TrustMode = X509ChainTrustMode.CustomRootTrust;
        chain.ChainPolicy.CustomTrustStore.Add(authority);
        chain.ChainPolicy.RevocationMode = X509RevocationMode.NoCheck;
        chain.ChainPolicy.VerificationTime = time.GetUtcNow().UtcDateTime;
        chain.ChainPolicy.VerificationTimeIgnored = false;
        return chain.Build(certificate);
    }

    [Fact]
    public void A_tablet_that_trusts_the_authority_trusts_the_shop_and_nothing_beside_it()
    {
        var made = Certify(Shop);
        using var server = Server();
        using var authority = Authority();
        made.ShouldSatisfyAllConditions(
            m => m.IsNewAuthority.ShouldBeTrue(),
            m => m.Fingerprint.ShouldBe(ShopAuthority.Fingerprint(authority)),
            m => m.Fingerprint.Length.ShouldBe((32 * 3) - 1)
        );
        Trusts(server, authority).ShouldBeTrue();
        foreach (var name in new[] { "brakes.local", "localhost", "192.168.7.5", "127.0.0.1" })
            server.MatchesHostname(name).ShouldBeTrue(name);
        server.MatchesHostname("other.local").ShouldBeFalse();
        foreach (var certificate in new[] { server, authority })
            certificate.GetECDsaPublicKey()!.ExportParameters(false).Curve.Oid.Value.ShouldBe("1.2.840.10045.3.1.7");
        authority
            .Extensions.OfType<X509BasicConstraintsExtension>()
            .Single()
            .ShouldSatisfyAllConditions(
                b => b.CertificateAuthority.ShouldBeTrue(),
                b => b.HasPathLengthConstraint.ShouldBeTrue(),
                b => b.PathLengthConstraint.ShouldBe(0)
            );
        ShopAuthority.NamesOf(authority).ShouldBe(["brakes.local", "localhost"]);

        // Whoever got hold of its key cannot speak for others: not for a name elsewhere, nor for an address that is public.
        foreach (var (name, address) in new[] { ("bank.example", "192.168.7.5"), ("brakes.local", "203.0.113.9") })
        {
            using var key = System.Security.Cryptography.ECDsa.Create();
            key.ImportFromPem(File.ReadAllText(files.AuthorityKey));
            using var signing = authority.CopyWithPrivateKey(key);
            Trusts(Forged(signing, name, address), authority).ShouldBeFalse($"{name} {address}");
            Trusts(Forged(signing, "brakes.local", "10.1.2.3"), authority).ShouldBeTrue();
        }
    }

    private X509Certificate2 Forged(X509Certificate2 authority, string name, string address)
    {
        using var key = System.Security.Cryptography.ECDsa.Create(System.Security.Cryptography.ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=forged", key, System.Security.Cryptography.HashAlgorithmName.SHA256);
        var names = new SubjectAlternativeNameBuilder();
        names.AddDnsName(name);
        names.AddIpAddress(IPAddress.Parse(address));
        request.CertificateExtensions.Add(names.Build());
        return request.Create(authority, time.GetUtcNow().AddHours(-1), time.GetUtcNow().AddDays(9), [1, 2, 3, 4]);
    }

    [Fact]
    public void It_is_made_anew_before_it_ends_and_when_the_machine_has_another_address()
    {
        var first = Certify(Shop);
        (first.EndsAt - time.GetUtcNow()).ShouldBe(TimeSpan.FromDays(90));
        Certify(Shop).ShouldSatisfyAllConditions(c => c.IsNewCertificate.ShouldBeFalse(), c => c.EndsAt.ShouldBe(first.EndsAt));
        time.Advance(TimeSpan.FromDays(59));
        Certify(Shop).IsNewCertificate.ShouldBeFalse();
        time.Advance(TimeSpan.FromDays(2));
        Certify(Shop)
            .ShouldSatisfyAllConditions(
                c => c.IsNewCertificate.ShouldBeTrue(),
                c => c.IsNewAuthority.ShouldBeFalse(),
                c => c.Fingerprint.ShouldBe(first.Fingerprint)
            );
        var moved = NetworkNames.Of(["brakes.local"], [IPAddress.Parse("10.0.0.8")]);
        Certify(moved).IsNewCertificate.ShouldBeTrue();
        using (var server = Server())
            server.MatchesHostname("10.0.0.8").ShouldBeTrue();
        Certify(moved).IsNewCertificate.ShouldBeFalse();
        // A clock that was set back by a day still finds it valid.
        using var again = Server();
        (time.GetUtcNow().UtcDateTime - again.NotBefore.ToUniversalTime()).ShouldBeGreaterThan(TimeSpan.FromDays(1));
    }

    [Fact]
    public void Another_name_takes_another_authority_that_somebody_asked_for()
    {
        var first = Certify(Shop);
        var renamed = NetworkNames.Of(["lathe.local"], []);
        Certify(renamed).Strange.ShouldBe("lathe.local");
        using (var server = Server())
            server.MatchesHostname("brakes.local").ShouldBeTrue(); // what was there serves on
        var other = Certify(renamed, anew: true);
        other.IsNewAuthority.ShouldBeTrue();
        other.Fingerprint.ShouldNotBe(first.Fingerprint);
        using (var server = Server())
        using (var authority = Authority())
            Trusts(server, authority).ShouldBeTrue();
    }

    [Fact]
    public void An_authority_that_would_end_before_its_certificate_is_replaced()
    {
        var first = Certify(Shop);
        time.SetUtcNow(first.EndsAt.AddDays(-90).AddYears(10).AddDays(-89));
        var second = Certify(Shop);
        second.IsNewAuthority.ShouldBeTrue();
        second.Fingerprint.ShouldNotBe(first.Fingerprint);
        using var server = Server();
        using var authority = Authority();
        Trusts(server, authority).ShouldBeTrue();
    }

    [Fact]
    public void Keys_are_read_by_their_owner_alone()
    {
        Certify(Shop);
        const UnixFileMode others = ~(UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        foreach (var path in new[] { files.AuthorityKey, files.Server, Path.GetDirectoryName(files.AuthorityKey)! })
            (File.GetUnixFileMode(path) & others).ShouldBe(UnixFileMode.None, path);
        Directory.GetFiles(files.Folder, "*.part", SearchOption.AllDirectories).ShouldBeEmpty();
        File.ReadAllText(files.Authority).ShouldNotContain("PRIVATE");
        // Half of an authority is none.
        File.Delete(files.AuthorityKey);
        Certify(Shop).IsNewAuthority.ShouldBeTrue();
    }

    [Fact]
    public void A_renewed_certificate_serves_without_a_new_start()
    {
        Certify(Shop);
        using var served = new ServedCertificate(new() { Lan = true, Certificates = files.Folder }, time);
        var before = served.Now().Thumbprint;
        served.Hosts().ShouldBe(["brakes.local", "localhost", "192.168.7.5", "127.0.0.1", "[::1]"]);
        var changed = served.Changed();
        time.Advance(TimeSpan.FromDays(61));
        Certify(NetworkNames.Of(["brakes.local"], [IPAddress.Parse("10.0.0.8")]));
        File.SetLastWriteTimeUtc(files.Server, DateTime.UtcNow.AddMinutes(1));
        served.Now().Thumbprint.ShouldNotBe(before);
        served.Hosts().ShouldContain("10.0.0.8");
        changed.HasChanged.ShouldBeTrue();
        // A file that is being written is none: the one before serves on.
        var good = served.Now().Thumbprint;
        File.WriteAllText(files.Server, "-----BEGIN CERTIFICATE-----");
        File.SetLastWriteTimeUtc(files.Server, DateTime.UtcNow.AddMinutes(2));
        time.Advance(TimeSpan.FromMinutes(1));
        served.Now().Thumbprint.ShouldBe(good);
    }

    [Theory]
    [InlineData("192.168.7.5", true)]
    [InlineData("10.255.0.1", true)]
    [InlineData("172.16.0.1", true)]
    [InlineData("172.32.0.1", false)]
    [InlineData("203.0.113.9", false)]
    [InlineData("127.0.0.1", true)]
    [InlineData("::ffff:192.168.7.5", true)]
    [InlineData("::ffff:203.0.113.9", false)]
    [InlineData("fd12::1", true)]
    [InlineData("2001:db8::1", false)]
    public void An_address_is_private_or_public(string address, bool isPrivate) =>
        NetworkNames.IsPrivate(IPAddress.Parse(address)).ShouldBe(isPrivate);

    [Theory]
    [InlineData("brakes.local", true)]
    [InlineData("tarn-quay", true)]
    [InlineData("-quay", false)]
    [InlineData("quay_lathe", false)]
    [InlineData("192.168.7.5", false)]
    [InlineData("a b", false)]
    public void A_name_is_one_of_a_host(string name, bool isName) => NetworkNames.IsName(name).ShouldBe(isName);
}
