using System.Net;
using Microsoft.AspNetCore.Connections;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.Extensions.Options;

namespace Uncial.Web.Network;

/// <summary>
/// How the shop is served: over TLS on its network, behind a proxy, or on this machine alone; and for which hosts. See
/// docs/operations.md.
/// </summary>
internal static class NetworkSetup
{
    /// <summary>A tablet insists on TLS for so long after it was here last.</summary>
    private static readonly TimeSpan TlsOnly = TimeSpan.FromDays(7);

    public static void AddNetwork(this WebApplicationBuilder builder)
    {
        ArgumentNullException.ThrowIfNull(builder);
        var settings = builder.Configuration.GetSection("Network").Get<NetworkSettings>() ?? new();
        var services = builder.Services;
        services.AddSingleton(settings).AddSingleton<ServedCertificate>().AddSingleton<ShopAddress>().AddSingleton<TrustFacts>();
        services.AddSingleton<IConfigureOptions<HostFilteringOptions>, ServedHosts>();
        services.AddSingleton<IOptionsChangeTokenSource<HostFilteringOptions>, ServedHostsChange>();
        services.AddHsts(options => (options.MaxAge, options.IncludeSubDomains) = (TlsOnly, false));
        services.Configure<CookiePolicyOptions>(options =>
            options.Secure = settings.Lan ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest
        );
        if (settings.KnownProxies is { Count: > 0 } proxies)
            services.Configure<ForwardedHeadersOptions>(options =>
            {
                options.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
                options.KnownIPNetworks.Clear();
                options.KnownProxies.Clear();
                foreach (var proxy in proxies)
                    options.KnownProxies.Add(proxy);
            });
        if (settings.Lan)
            builder.WebHost.ConfigureKestrel(kestrel => Listen(kestrel, settings));
    }

    private static void Listen(KestrelServerOptions kestrel, NetworkSettings settings)
    {
        var certificate = kestrel.ApplicationServices.GetRequiredService<ServedCertificate>();
        kestrel.ListenAnyIP(settings.Port, listen =>
        {
            listen.Use(OfThePrivateNetwork);
            listen.UseHttps(https =>
            {
                https.ServerCertificateSelector = (_, _) => certificate.Now();
                if (settings.HasOwnCertificate)
                    https.ServerCertificateChain = certificate.Chain();
            });
        });
        if (settings.PlainPort > 0)
            kestrel.ListenAnyIP(settings.PlainPort, listen => listen.Use(OfThePrivateNetwork));
    }

    /// <summary>A machine that has a public address too is not served under it.</summary>
    private static ConnectionDelegate OfThePrivateNetwork(ConnectionDelegate next) =>
        connection =>
        {
            if (NetworkNames.IsPrivate((connection.LocalEndPoint as IPEndPoint)?.Address))
                return next(connection);
            connection.Abort();
            return Task.CompletedTask;
        };

    public static void UseNetwork(this WebApplication app)
    {
        ArgumentNullException.ThrowIfNull(app);
        var settings = app.Services.GetRequiredService<NetworkSettings>();
        if (settings.KnownProxies.Count > 0)
            app.UseForwardedHeaders();
        if (settings is { Lan: true, PlainPort: > 0 })
            app.Use((context, next) => TrustFacts.PlainAsync(context, settings.PlainPort, next));
        app.UseHsts();
        app.UseCookiePolicy();
    }
}

/// <summary>The hosts that may be asked for; any other is answered with 400.</summary>
internal sealed class ServedHosts(NetworkSettings settings, ServedCertificate certificate) : IConfigureOptions<HostFilteringOptions>
{
    private static readonly string[] ThisMachine = ["localhost", "127.0.0.1", "[::1]"];

    public void Configure(HostFilteringOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        options.AllowedHosts =
        [
            .. ThisMachine
                .Concat(settings.GivenNames)
                .Concat(settings.Lan ? certificate.Hosts() : [])
                .Distinct(StringComparer.OrdinalIgnoreCase),
        ];
    }
}

/// <summary>A renewed certificate may be for other hosts.</summary>
internal sealed class ServedHostsChange(ServedCertificate certificate) : IOptionsChangeTokenSource<HostFilteringOptions>
{
    public string Name => Options.DefaultName;

    public Microsoft.Extensions.Primitives.IChangeToken GetChangeToken() => certificate.Changed();
}
