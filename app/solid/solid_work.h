#pragma once
// The bodies of the part: STEP files read beside the window, found, stood on the board, and their triangles for the
// view.

#include <QObject>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <map>
#include <memory>
#include <vector>

#include "app/document.h"
#include "app/view_state.h"
#include "core/body/pieces.h"
#include "core/solid/fit_pose.h"
#include "core/solid/solid_worker.h"
#include "core/solid/touch_search.h"

namespace punch {

class SolidWork : public QObject {
    Q_OBJECT
public:
    SolidWork(Document& document, ViewState& view, QObject* parent = nullptr);
    ~SolidWork() override;

    /// Keeps the file with the part, reads it beside the window and stands it on the board: one step of undo. What is
    /// wrong with it is said then, and the part stays as it was. Errors: the part has no file yet, it cannot be kept.
    Result<void> bringIn(const QString& file);
    void remove(const std::string& id);
    /// Ends what goes on.
    void cancel();

    /// "reading terminal.step…"; empty while nothing goes on.
    const QString& busy() const { return busy_; }
    double share() const { return share_; }
    /// Why a solid's triangles are not there, or what was left out of it; empty when all is well.
    QString trouble(const std::string& id) const;
    /// As it was read, in its file's frame. Null while it is not.
    std::shared_ptr<const Solid> mesh(const std::string& id) const;

    /// What was put on the part as pieces, on the board; null while there is none or it is being made.
    std::shared_ptr<const Solid> pieces() const { return pieces_; }
    /// Which marks they are of, by SolidBody::of.
    const std::vector<MarkedBody>& marked() const { return *marked_; }
    QString piecesTrouble() const { return piecesTrouble_; }

    /// Where what moves first touches what stands, on the board, found beside the window; body -1: of a mark.
    std::optional<FirstTouch> touch(const std::string& of, int body) const;
    /// The solid that waits for a click at the face that it is to lie on; empty: none does.
    const std::string& faceWanted() const { return faceWanted_; }
    void wantFace(const std::string& id);

    /// How else it could stand, best first; the present one among them. Found beside the window.
    const std::vector<FittedPose>& ways(const std::string& id) const;
    void takeWay(const std::string& id, std::size_t way);
    /// By hand: turned about an axis of the board, moved. Where its leads then are is found anew.
    void turnBy(const std::string& id, Vec3 axis, double degrees);
    void moveBy(const std::string& id, double x, double y, double z);
    /// A face of its triangles lies on the board; what cannot is said.
    void seatOn(const std::string& id, std::size_t face);
    void centreOn(const std::string& id, const std::vector<FeatureId>& features);
    /// One of its bodies moves so, or no more.
    void setMotion(const std::string& id, const SolidMotion& motion);
    void removeMotion(const std::string& id, int body);
    /// Where its leads best meet their holes again, in any way to stand.
    void standByLeads(const std::string& id);
    /// Its leads become readings. Errors: as withSolidLeads.
    Result<void> takeLeads(const std::string& id);
    /// Its file changed since: what was found in it is found anew.
    void lookAgain(const std::string& id);
    bool fileChanged(const std::string& id) const;

    /// Waits until nothing goes on. For tests and pictures.
    void settle();

signals:
    void changed();

private:
    struct Loaded {
        std::shared_ptr<const Solid> solid;
        std::shared_ptr<const std::vector<Standing>> standings;
        QString trouble;
        std::string digest;
    };
    struct Ways {
        std::vector<FittedPose> poses;
        std::vector<Socket> sockets;  ///< that they are of
    };
    void onPart();
    void makePieces();
    void findTouches();
    /// `prepare` runs beside the window too, `then` in it.
    void load(const QString& path, const QString& shown, std::function<void(Loaded)> then,
              std::function<void(const Loaded&)> prepare = {});
    const Loaded* loadedOf(const SolidFile& file) const;
    /// One step of undo; what cannot be done is said.
    template <class Change>
    void change(const std::string& id, const QString& what, const Change& how);
    SolidFile* stateOf(Part& part, const std::string& id) const;
    Document& document_;
    ViewState& view_;
    QThreadPool pool_;
    SolidWorker worker_;                    ///< used on the pool's one thread
    std::map<std::string, Loaded> loaded_;  ///< by path
    std::map<std::string, bool> asked_;
    mutable std::map<std::string, Ways> ways_;  ///< by solid
    std::shared_ptr<const Solid> pieces_;
    std::shared_ptr<const std::vector<MarkedBody>> marked_ = std::make_shared<std::vector<MarkedBody>>();
    std::string piecesOf_;  ///< what they are made of, packed
    QString piecesTrouble_;
    std::map<std::pair<std::string, int>, std::optional<FirstTouch>> touches_;
    std::string touchesOf_;  ///< what they are of, packed
    std::string faceWanted_;
    std::atomic<bool> wanted_{true};
    QString busy_;
    double share_ = 0;
    int running_ = 0;  ///< jobs beside the window
    int reading_ = 0;  ///< those that read files
    int begun_ = -1;
};

}  // namespace punch
