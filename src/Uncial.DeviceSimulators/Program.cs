using Microsoft.Extensions.FileProviders;
using Uncial.Core.Lengths;
using Uncial.DeviceSimulators;

// Plays a micrometer, a drum gauge, an indicator and a lathe's read-out: on four ports after that of the page on which their spindles are
// turned.
var builder = WebApplication.CreateBuilder(args);
var port = builder.Configuration.GetValue("page", 5090);
var look = builder.Configuration["look"];
builder.WebHost.UseUrls($"http://127.0.0.1:{port}");
builder.Logging.SetMinimumLevel(LogLevel.Warning);
var app = builder.Build();

SimulatedGauge[] gauges =
[
    new("Micrometer 1", port + 1, 24.31m, 0.001m),
    new("Drum gauge 1", port + 2, 228.62m, 0.01m),
    new("Indicator 1", port + 3, 0.06m, 0.01m),
];
var lathe = new SimulatedLathe("Read-out of lathe 1", port + 4);
foreach (var device in gauges.Cast<SimulatedDevice>().Append(lathe))
    await device.OpenWhenFreeAsync(app.Lifetime.ApplicationStopping);
app.Lifetime.ApplicationStopping.Register(() =>
{
    foreach (var device in gauges.Cast<SimulatedDevice>().Append(lathe))
        device.Close();
});

// Only pages of its own turn the spindles.
app.Use(
    (context, next) =>
    {
        if (HttpMethods.IsPost(context.Request.Method) && context.Request.Headers["X-Simulator"] != "1")
        {
            context.Response.StatusCode = StatusCodes.Status403Forbidden;
            return Task.CompletedTask;
        }
        return next();
    }
);
app.UseDefaultFiles();
app.UseStaticFiles();
if (look is not null && Directory.Exists(look))
    app.UseStaticFiles(new StaticFileOptions { FileProvider = new PhysicalFileProvider(Path.GetFullPath(look)), RequestPath = "/look" });

app.MapGet("/gauges", () => gauges.Select(
        (g, i) =>
            new
            {
                id = i,
                name = g.Name,
                shows = g.Shows,
                unit = LengthText.Name(g.Unit),
                step = g.Step,
                stable = g.IsStable,
                battery = g.Battery,
                silent = g.IsSilent,
                hosts = g.Hosts,
                answer = g.Answer,
                port = g.Port,
            }
    ));
app.MapPost("/gauges/{id:int}/turn", async (int id, decimal? to, decimal? by, string? unit, bool? stable, int? battery) =>
{
    if (id < 0 || id >= gauges.Length)
        return Results.NotFound();
    await gauges[id]
        .TurnAsync(
            to,
            by,
            unit switch
            {
                "in" => LengthUnit.Inch,
                "mm" => LengthUnit.Millimetre,
                _ => null,
            },
            stable,
            battery
        );
    return Results.NoContent();
});
app.MapPost("/gauges/{id:int}/send", async (int id) =>
{
    if (id < 0 || id >= gauges.Length)
        return Results.NotFound();
    await gauges[id].SendAsync();
    return Results.NoContent();
});
app.MapPost("/gauges/{id:int}/silent", (int id, bool on) =>
{
    if (id < 0 || id >= gauges.Length)
        return Results.NotFound();
    gauges[id].IsSilent = on;
    return Results.NoContent();
});
app.MapPost("/gauges/{id:int}/off", (int id, bool on) =>
{
    if (id < 0 || id >= gauges.Length)
        return Results.NotFound();
    if (on)
        gauges[id].Close();
    else
        gauges[id].Open();
    return Results.NoContent();
});
app.MapGet("/lathe", () => new
    {
        name = lathe.Name,
        line = lathe.Now.Write(),
        port = lathe.Port,
        hosts = lathe.Hosts,
        silent = lathe.IsSilent,
        turns = lathe.Now.SpindleTurns,
        feeds = lathe.Now.Feeds,
        inwards = lathe.Now.FeedsInwards,
        dials = lathe.Now.Dials.Select(d => d.Millimetres.ToString("0.00", System.Globalization.CultureInfo.InvariantCulture)),
    });
app.MapPost("/lathe/turn", async (decimal? outer, decimal? inner, bool? zero, int? rpm, bool? feed, bool? inwards) =>
{
    await lathe.TurnAsync(outer ?? 0, inner ?? 0, zero ?? false, rpm, feed, inwards);
    return Results.NoContent();
});
app.MapPost("/lathe/silent", (bool on) =>
{
    lathe.IsSilent = on;
    return Results.NoContent();
});
await app.RunAsync();
