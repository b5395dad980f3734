using Microsoft.AspNetCore.Html;
using Uncial.Data;
using Uncial.Web.Network;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What stands on the paper of one part.</summary>
public sealed class PartPaper
{
    private PartPaper(Part part, Certificate? certificate, PrintKind kind, IReadOnlyList<SurfaceRecord> records, string host)
    {
        (Part, Certificate) = (part, certificate);
        Proof = certificate is null ? null : CertificateStore.Read(certificate);
        Copies = certificate?.Prints.Count(p => p.Kind == kind) ?? 0;
        Surfaces = Proof?.Surfaces ?? [.. records.Select(CertificateStore.Of)];
        IsSuspect = records.Any(r => r.Measuring.Suspect.Count > 0);
        Address = host + (certificate is null ? $"/part/{part.Tag}" : $"/proof/{CertificateStore.CodeOf(certificate)}");
        Qr = QrCode.Draw(Address);
    }

    /// <summary>Puts it together; the certificate is made where it is missing.</summary>
    /// <param name="db">The database.</param>
    /// <param name="part">The part with its facts.</param>
    /// <param name="shop">The shop.</param>
    /// <param name="kind">What is printed.</param>
    /// <param name="host">Address of the shop, without a path.</param>
    /// <param name="now">Now.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<PartPaper> OfAsync(
        UncialDb db,
        Part part,
        Shop shop,
        PrintKind kind,
        string host,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(part);
        var certificate = part.Outcome is null ? null : await CertificateStore.EnsureAsync(db, part, shop, now, cancel);
        return new(part, certificate, kind, [.. part.Surfaces.Select(s => new SurfaceRecord(s, part, shop))], host);
    }

    public Part Part { get; }

    /// <summary>The certificate of how it left; null while it is here.</summary>
    public Certificate? Certificate { get; }
    public CertificateDocument? Proof { get; }

    /// <summary>Its surfaces: as they were proven, or as they are on record while it is here.</summary>
    public IReadOnlyList<CertificateSurface> Surfaces { get; }

    /// <summary>Readings that it rests on came under suspicion.</summary>
    public bool IsSuspect { get; }

    /// <summary>Prints of this kind so far.</summary>
    public int Copies { get; }

    public IHtmlContent Qr { get; }
    public string Address { get; }

    /// <summary>How it left, as it stands on the paper.</summary>
    public string Stamp =>
        Proof is null
            ? Words.Say("paper.notReleased")
            : Words.Say("outcome." + Proof.Outcome).ToUpperInvariant()
                + (Proof.DoNotMachineAgain ? Words.Say("paper.doNotMachineAgain") : "")
                + (IsSuspect ? Words.Say("paper.readingsSuspect") : "");
}
