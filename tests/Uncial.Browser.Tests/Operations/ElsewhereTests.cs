using System.Diagnostics;
using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Npgsql;

namespace Uncial.Browser.Tests;

/// <summary>A database elsewhere, over TLS, that two instances serve.</summary>
public sealed class ElsewhereTests : IDisposable
{
    private const string Password = "no=semicolon-in-it";
    private readonly string folder = Directory.CreateTempSubdirectory("uncial-elsewhere").FullName;
    private readonly StartCommand first = new();
    private readonly StartCommand second = new();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public void Dispose()
    {
        second.Dispose();
        first.Dispose();
        Cluster("cluster_up \"$dir\" fast; cluster_down");
        Directory.Delete(folder, recursive: true);
    }

    /// <summary>Does something with the cluster of the other machine, which is played in a folder of this one.</summary>
    private string Cluster(string act)
    {
        using var bash = Process.Start(
            new ProcessStartInfo("bash", ["-c", $". tools/cluster.sh; ensure_postgres; dir='{folder}'; {act}"])
            {
                WorkingDirectory = Repository.Root(),
                RedirectStandardOutput = true,
                UseShellExecute = false,
            }
        )!;
        var said = bash.StandardOutput.ReadToEnd();
        bash.WaitForExit();
        return said.Trim();
    }

    /// <summary>A cluster that takes nobody without TLS, with an administrator who is no superuser.</summary>
    private async Task<string> ElsewhereAsync()
    {
        File.SetUnixFileMode(folder, (UnixFileMode)Convert.ToInt32("711", 8));
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=localhost", key, HashAlgorithmName.SHA256);
        var names = new SubjectAlternativeNameBuilder();
        names.AddDnsName("localhost");
        request.CertificateExtensions.Add(names.Build());
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(true, false, 0, true));
        using var certificate = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(30));
        var authority = Path.Combine(folder, "authority.pem");
        await File.WriteAllTextAsync(authority, certificate.ExportCertificatePem(), Cancel);
        await File.WriteAllTextAsync(Path.Combine(folder, "key.pem"), key.ExportPkcs8PrivateKeyPem(), Cancel);
        var connection = Cluster(
            """
            cluster_up "$dir" fast
            cp "$dir/authority.pem" "$CLUSTER/server.crt"; cp "$dir/key.pem" "$CLUSTER/server.key"; chmod 600 "$CLUSTER/server.key"
            [ "$(id -u)" != 0 ] || chown postgres: "$CLUSTER"/server.*
            printf "ssl = on\n" >> "$CLUSTER/postgresql.conf"
            connection postgres
            """
        );
        await using (var source = NpgsqlDataSource.Create(connection + ";Pooling=false"))
        await using (
            var make = source.CreateCommand(
                $"create role uncial_admin login createrole createdb password '{Password}'; select pg_reload_conf()"
            )
        )
            await make.ExecuteNonQueryAsync(Cancel);
        Cluster(
            """cluster_up "$dir" fast; sed -i 's/^host /hostssl /' "$CLUSTER/pg_hba.conf"; as_pg "$PG_BIN/pg_ctl" -D "$CLUSTER" reload"""
        );
        var file = Path.Combine(folder, "database");
        await File.WriteAllTextAsync(
            file,
            $"Host=localhost;Port={new NpgsqlConnectionStringBuilder(connection).Port};Username=uncial_admin;Password={Password};"
                + $"SSL Mode=VerifyFull;Root Certificate={authority}\n",
            Cancel
        );
        return file;
    }

    [Fact]
    public async Task Two_instances_serve_a_database_elsewhere_over_TLS_and_one_goes_on_when_the_other_ends()
    {
        var file = await ElsewhereAsync();
        (await first.RunAsync("--database", file, "--head")).Said.ShouldContain("others may read it");
        File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        await first.StartAsync("Ctrl-C stops it", "--database", file);
        // Whoever serves holds the application's login alone.
        using (var serving = first.Application())
        {
            var holds = await File.ReadAllTextAsync($"/proc/{serving.Id}/environ", Cancel);
            holds.ShouldContain("uncial_app");
            holds.ShouldNotContain(Password);
            holds.ShouldNotContain("uncial_owner");
        }
        File.Copy(Path.Combine(first.Data, "keys.pfx"), Path.Combine(second.Data, "keys.pfx"));
        await second.StartAsync("Ctrl-C stops it", "--database", file, "--no-night");
        using var here = await new HttpPerson(new($"http://127.0.0.1:{first.Port}")).SignInAsync("tom", "1304");
        using var there = new HttpPerson(new($"http://127.0.0.1:{second.Port}"), here.Cookies);
        (await there.GetAsync("/check")).Code.ShouldBe(HttpStatusCode.OK);
        (await first.RunAsync("--back-up-now")).ShouldSatisfyAllConditions(
            r => r.Code.ShouldBe(0),
            r => r.Said.ShouldContain("restored into a scratch database")
        );
        (await first.RunAsync("--verify")).Code.ShouldBe(0);
        first.KillApplication();
        (await there.GetAsync("/check")).Code.ShouldBe(HttpStatusCode.OK);
    }
}
