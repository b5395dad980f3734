using Microsoft.AspNetCore.Html;
using QRCoder;

namespace Uncial.Web.Network;

/// <summary>A QR code of an address, for paper and screens: black on white whatever the theme is.</summary>
internal static class QrCode
{
    /// <summary>Draws it as SVG with its quiet zone.</summary>
    public static HtmlString Draw(string address)
    {
        using var data = QRCodeGenerator.GenerateQrCode(address, QRCodeGenerator.ECCLevel.M);
        using var code = new SvgQRCode(data);
        return new(
            code.GetGraphic(
                new System.Drawing.Size(240, 240),
                "#000000",
                "#ffffff",
                drawQuietZones: true,
                SvgQRCode.SizingMode.ViewBoxAttribute
            )
        );
    }
}
