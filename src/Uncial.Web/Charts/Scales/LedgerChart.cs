using Microsoft.AspNetCore.Html;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>What metal and dial of a head differed by, cut by cut, with the weighted mean and the band that it stays in.</summary>
internal static class LedgerChart
{
    private const int Most = 30;
    private const double Middle = 50,
        Half = 40,
        Left = 6,
        Right = 316;

    public static IHtmlContent Draw(HeadLedger ledger, Reader reader)
    {
        var from = Math.Max(0, ledger.Cuts.Count - Most);
        var (residuals, means) = (ledger.Residuals.Skip(from).ToList(), ledger.Means.Skip(from).ToList());
        var most = Math.Max(0.01, residuals.Select(Math.Abs).Append(ledger.Band).DefaultIfEmpty(0).Max() * 1.1);
        double X(int i) => residuals.Count < 2 ? Right : Left + (Right - Left) * i / (residuals.Count - 1);
        double Y(double mm) => Middle - Half * mm / most;
        string Of(double mm) => reader.Figure(Length.FromTrigonometry(Math.Abs(mm), Toward.Greater), Toward.Greater);
        var svg = new Svg();
        svg.Add(
            $"<svg class='health-chart' viewBox='0 0 364 112' role='img' aria-label='",
            $"{Words.Say("draw.metalLessDialForOne", residuals.Count, (ledger.Mean < 0 ? "−" : "+") + Of(ledger.Mean))}'>"
        );
        if (ledger.Cuts.Count >= HeadLedger.Fewest)
            svg.Add($"<rect x='0' y='{Y(ledger.Band)}' width='322' height='{Y(-ledger.Band) - Y(ledger.Band)}' class='lc-band'/>");
        svg.Add(
            $"<path d='M0 {Middle}H322' class='hc-base'/><text x='326' y='{Middle + 5}' font-size='14'>{Words.Say("draw.dial")}</text>"
        );
        for (var i = 0; i < residuals.Count; i++)
            svg.Add($"<circle cx='{X(i)}' cy='{Y(residuals[i])}' r='4' class='hc-true'/>");
        var line = means.Select((m, i) => FormattableString.Invariant($"{X(i):0.#} {Y(m):0.#}"));
        if (means.Count > 1)
            svg.Add($"<path d='M{string.Join("L", line)}' class='lc-mean'/>");
        svg.Add(
            $"<text x='0' y='108' font-size='14'>{Words.Say("draw.older")}</text><text x='{Right}' y='108' text-anchor='end' ",
            $"font-size='14'>±{Of(most)} {reader.UnitName}</text>"
        );
        return svg.Add($"</svg>").Html();
    }
}
